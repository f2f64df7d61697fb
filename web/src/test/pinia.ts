import { reactive } from 'vue';

/** Stands in for the store library in unit tests, which cannot load its modules: a store is made once for every fresh start. */
let stores = new Map<string, unknown>();
export const createPinia = () => ({});
export const setActivePinia = (_: unknown) => void (stores = new Map());
export function defineStore<T extends object>(id: string, setup: () => T): () => T {
  return () => {
    if (!stores.has(id)) stores.set(id, reactive(setup()));
    return stores.get(id) as T;
  };
}
