import { defineStore } from 'pinia';
import { inject, provide, shallowRef, type InjectionKey } from 'vue';
import type { MethodFacts } from '@veldtwind/core/quantities';

/** How the numbers of a part of a page were made. */
export interface Origin {
  method: MethodFacts;
  /** Made by the method below the one that is meant, until that answers. */ provisional: boolean;
  /** What they are of: candidate, speed, altitude, loading. */ conditions: string;
  doubts: readonly string[];
  /** Of level flight. */ of?: { letter: string; speed: number; altitude: number; loading?: string };
}

/** A number that somebody asked about, as it is shown. */
export interface AskedNumber {
  title: string;
  value: string;
  unit: string;
  says?: string;
  formula?: string;
  /** Its id in the registry. */ quantity?: string;
  origin: Origin | null;
}

/** The sheet that tells what a number is and how it was made; one for all numbers of the page. */
export const useNumberSheet = defineStore('number-sheet', () => {
  const asked = shallowRef<AskedNumber | null>(null);
  const ask = (number: AskedNumber) => void (asked.value = number);
  const close = () => void (asked.value = null);
  return { asked, ask, close };
});

const ORIGIN: InjectionKey<() => Origin | null> = Symbol('origin');
/** Settles how the numbers below a component were made. */
export const provideOrigin = (of: () => Origin | null): void => provide(ORIGIN, of);
/** How the numbers of where a component stands were made; null where nobody says. */
export const useOrigin = (): (() => Origin | null) => inject(ORIGIN, () => null);
