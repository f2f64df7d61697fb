import { transferHandlers } from 'comlink';

/** Errors leave a worker with what they say beside their message: the code, the hint and the path of the field. */
export function keepHints(): void {
  const thrown = transferHandlers.get('throw')!;
  transferHandlers.set('throw', {
    ...thrown,
    serialize: ({ value }: { value: unknown }) => {
      if (!(value instanceof Error)) return [{ isError: false, value }, []];
      const { message, name, stack } = value;
      const { code, hint, path } = value as { code?: string; hint?: string; path?: string };
      return [{ isError: true, value: { message, name, stack, code, hint, path } }, []];
    },
  } as never);
}
