import type { Component } from 'vue';

/** Whether an area has something to show, and whether it is of now. */
export type AreaMark = 'empty' | 'current' | 'stale';

/** A command as the palette lists it. */
export interface Command {
  id: string;
  name: string;
  keys?: string;
  run: () => void;
}

/** An area of the application: rail, routes, palette and keys are made from it. */
export interface Area {
  id: string;
  /** Place in the rail; also its number for the keyboard. */
  place: number;
  name: string;
  /** Heading that it stands under in the rail; empty at the ends. */
  group: '' | 'Shape' | 'Flow' | 'Flight';
  question: string;
  /** Route inside a project. */
  path: string;
  view: () => Promise<{ default: Component }>;
  /** Called inside the rail's setup or a computed value. */
  mark: () => AreaMark;
  /** What the palette offers from it. */
  commands?: () => Command[];
}

/** Fixes the type of an area. */
export const area = (a: Area): Area => a;

/** Keys of the areas by their place, with Alt: as `KeyboardEvent.code` names them, and as they are written. */
const AREA_KEYS: readonly (readonly [code: string, name: string])[] = [
  ...Array.from({ length: 9 }, (_, i) => [`Digit${i + 1}`, String(i + 1)] as const),
  ['Digit0', '0'],
  ['Minus', '-'],
  ['Equal', '='],
  ['BracketLeft', '['],
];
/** The place of an area whose key was pressed with Alt; −1 for other keys. */
export const placeOfKey = (code: string): number => AREA_KEYS.findIndex(([c]) => c === code);
/** The key of an area, as it is written. */
export const keyOfPlace = (place: number): string => `Alt ${AREA_KEYS[place]?.[1] ?? ''}`;
