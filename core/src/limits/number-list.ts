import { InvalidInput } from '../numerics';

/** Most values that a list has. */
const MOST_VALUES = 2001;

/**
 * Reads numbers as a list: single ones and ranges `from:to:step`, with commas, such as `-2, 0, 4.5, 8:12:0.5`. They stay in their order.
 * @param what its name in messages. @throws InvalidInput `range`.
 */
export function numberList(text: string, what: string): number[] {
  const refuse = (message: string, hint: string): never => {
    throw new InvalidInput('range', `${what}: ${message}`, hint, what);
  };
  const number = (part: string): number => {
    const value = Number(part.trim().replace('−', '-').replace(/°$/, ''));
    return part.trim() === '' || !Number.isFinite(value)
      ? refuse(`"${part}" is not a number.`, 'Write one number, from:to:step, or several with commas.')
      : value;
  };
  const out: number[] = [];
  for (const part of text.split(',')) {
    if (!part.includes(':')) out.push(number(part));
    else {
      const ends = part.split(':').map(number);
      if (ends.length !== 3) refuse(`"${part.trim()}" is not from:to:step.`, 'For instance -4:12:1.');
      const [from, to, step] = ends;
      if (step === 0 || (to - from) * step < 0)
        refuse(`a step of ${step} does not lead from ${from} to ${to}.`, 'Change the sign or size of the step.');
      const count = Math.floor((to - from) / step + 1e-9) + 1;
      if (out.length + count > MOST_VALUES)
        refuse(`${out.length + count} values are more than ${MOST_VALUES}.`, 'Use a wider step.');
      for (let i = 0; i < count; i++) out.push(Number((from + i * step).toPrecision(12)));
    }
    if (out.length > MOST_VALUES) refuse(`${out.length} values are more than ${MOST_VALUES}.`, 'Give fewer.');
  }
  return out;
}
