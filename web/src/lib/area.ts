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
