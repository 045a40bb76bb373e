import type { z } from 'zod';

/** What a value has to be, by the schema library's names for kinds of data. */
const KINDS: Readonly<Record<string, string>> = {
  string: 'a text',
  number: 'a number',
  int: 'a whole number',
  boolean: 'true or false',
  array: 'a list',
  tuple: 'a list',
  object: 'an object',
  record: 'an object',
  null: 'null',
};

const listed = (words: readonly unknown[]): string => words.map((word) => `“${String(word)}”`).join(', ');

/** What is wrong with a value, in our words, for whatever no schema has words of its own for. */
export function wordsOf(issue: z.core.$ZodRawIssue): string {
  switch (issue.code) {
    case 'invalid_type':
      if (issue.input === undefined) return `is missing; it has to be ${KINDS[issue.expected] ?? `of the kind “${issue.expected}”`}`;
      if (typeof issue.input === 'number' && !Number.isFinite(issue.input)) return 'has to be a finite number';
      return `has to be ${KINDS[issue.expected] ?? `of the kind “${issue.expected}”`}`;
    case 'invalid_value':
      if (issue.input === undefined) return `is missing; it has to be ${issue.values.length === 1 ? '' : 'one of '}${listed(issue.values)}`;
      return `has to be ${issue.values.length === 1 ? '' : 'one of '}${listed(issue.values)}`;
    case 'unrecognized_keys':
      return `has ${issue.keys.length === 1 ? 'a field that is not known' : 'fields that are not known'}: ${listed(issue.keys)}`;
    case 'too_big':
      return `is more than ${String(issue.maximum)}${issue.origin === 'string' ? ' letters' : issue.origin === 'array' ? ' parts' : ''}`;
    case 'too_small':
      return `is less than ${String(issue.minimum)}${issue.origin === 'string' ? ' letters' : issue.origin === 'array' ? ' parts' : ''}`;
    case 'invalid_union':
      return issue.input === undefined ? 'is missing' : 'is of no kind that is known';
    default:
      return 'is not written as it has to be';
  }
}
