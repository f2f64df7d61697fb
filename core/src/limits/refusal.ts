import type { z } from 'zod';
import { InvalidInput } from '../numerics';

type Issue = z.core.$ZodIssue;

/** The issue that says most: within a union, that of the form that the value came nearest to. */
function telling(issue: Issue, before: PropertyKey[] = []): { issue: Issue; path: PropertyKey[] } {
  const path = [...before, ...issue.path];
  if (issue.code !== 'invalid_union' || issue.errors.length === 0) return { issue, path };
  // What fails deepest inside was of the right form; a form that fails at once was not meant.
  const nearest = issue.errors
    .filter((list) => list.length > 0)
    .map((list) => telling(list[0], path))
    .sort((a, b) => b.path.length - a.path.length)[0];
  return nearest && nearest.path.length > path.length ? nearest : { issue, path };
}

const KINDS: Record<string, string> = {
  number: 'a number',
  string: 'a text',
  boolean: 'true or false',
  array: 'a list',
  object: 'an object of named values',
  record: 'an object of named values',
  int: 'a whole number',
};
const listed = (values: readonly unknown[]) => values.map((v) => JSON.stringify(v)).join(', ');
const kindsIn = (issue: Extract<Issue, { code: 'invalid_union' }>) => [
  ...new Set(
    issue.errors.flatMap((list) =>
      list.flatMap((i) => (i.code === 'invalid_type' ? [KINDS[i.expected] ?? i.expected] : [])),
    ),
  ),
];

/** What is wrong with a field, as the rest of a sentence, and what would work. */
function words(issue: Issue): { message: string; hint?: string } {
  const nearest = issue.code === 'custom' ? (issue.params?.nearest as number | undefined) : undefined;
  switch (issue.code) {
    case 'invalid_type': {
      const kind = KINDS[issue.expected] ?? issue.expected;
      const missing = /received undefined/.test(issue.message);
      return { message: missing ? `is missing: ${kind}` : `is not ${kind}`, hint: `Give it ${kind}.` };
    }
    case 'invalid_value':
      return {
        message: `must be ${issue.values.length > 1 ? 'one of ' : ''}${listed(issue.values)}`,
        hint: `Write ${listed(issue.values.slice(0, 1))}${issue.values.length > 1 ? ', or another of them' : ''}.`,
      };
    case 'too_small':
    case 'too_big': {
      const least = issue.code === 'too_small';
      const limit = Number(least ? issue.minimum : issue.maximum);
      const many = issue.origin === 'array' || issue.origin === 'string';
      const unit = issue.origin === 'array' ? ' entries' : issue.origin === 'string' ? ' letters' : '';
      const strict = issue.inclusive === false;
      return {
        message: `must ${many ? 'have' : 'be'} ${least ? (strict ? 'more than' : 'at least') : strict ? 'less than' : 'at most'} ${limit}${unit}`,
        hint: strict ? `Give ${least ? 'more' : 'less'} than ${limit}${unit}.` : `${limit}${unit} would work.`,
      };
    }
    case 'unrecognized_keys':
      return {
        message: `has ${issue.keys.map((k) => `"${k}"`).join(' and ')}, which ${issue.keys.length > 1 ? 'are' : 'is'} not known there`,
        hint: `Remove ${issue.keys.length > 1 ? 'them' : 'it'}, or check the spelling.`,
      };
    case 'invalid_union': {
      const kinds = kindsIn(issue);
      return kinds.length > 0
        ? { message: `must be ${kinds.join(' or ')}`, hint: `Give it ${kinds.join(' or ')}.` }
        : { message: 'is of none of the forms that are known there', hint: 'See the format in docs/.' };
    }
    default:
      // Messages of our own say what must be; a nearest value says what would work.
      return { message: issue.message, ...(nearest !== undefined && { hint: `${nearest} would work.` }) };
  }
}

/** The first thing that a schema refuses, as an error with the path of the field, what is wrong, and what would work. @param what was read, such as `The file`. */
export function refusalOf(error: z.ZodError, what: string): InvalidInput {
  const { issue, path } = telling(error.issues[0]);
  const at = path.map(String).join('.');
  const { message: usual, hint } = words(issue);
  // A schema that says it in words of its own says it better.
  const message = /^(Too (small|big)|Invalid |Unrecognized )/.test(issue.message) ? usual : issue.message;
  return new InvalidInput('invalid', `${what}${at ? `, ${at}` : ''}: ${message}.`, hint, at);
}
