/**
 * Text commands of the IEEE 488.2 kind: program messages of headers and parameters, units separated by semicolons, answers to
 * queries alone. Headers are told in their long form, such as `MEASure:VOLTage:DC?`; what is in capitals may stand alone.
 * Source: IEEE 488.2-1992, clauses 7 (program messages), 8 (responses), 10 (common commands); from memory.
 */
export interface Command {
  readonly header: string;
  readonly parameters: readonly string[];
  readonly isQuery: boolean;
}

/** A message is at most so long, in characters: what is longer is no command. */
export const longestMessage = 512;

/** The units of one line. A unit without a header is passed over. */
export function parseMessage(line: string): Command[] {
  return line
    .split(';')
    .map((unit) => unit.trim())
    .filter((unit) => unit !== '')
    .map((unit) => {
      const [, header = '', rest = ''] = /^(\S+)\s*(.*)$/.exec(unit) ?? [];
      return {
        header: header.toUpperCase().replace(/^:/, '').replace(/\?$/, ''),
        parameters: rest === '' ? [] : rest.split(',').map((p) => p.trim()),
        isQuery: header.endsWith('?'),
      };
    });
}

/** Whether a header that was sent is the one of a pattern: each word in its short or its long form. */
export function matches(pattern: string, sent: string): boolean {
  const [words, given] = [pattern.replace(/\?$/, '').split(':'), sent.split(':')];
  return (
    words.length === given.length &&
    words.every((word, i) => given[i] === word.toUpperCase() || given[i] === word.replace(/[a-z]+/g, '').toUpperCase())
  );
}

/** Errors with the numbers that such instruments give them. Source: SCPI-1999, volume 2, chapter 21; from memory. */
export const instrumentErrors = {
  none: [0, 'No error'],
  syntax: [-102, 'Syntax error'],
  undefined: [-113, 'Undefined header'],
  missing: [-109, 'Missing parameter'],
  range: [-222, 'Data out of range'],
  tooLong: [-363, 'Input buffer overrun'],
  hardware: [-240, 'Hardware error'],
} as const;
export type InstrumentError = keyof typeof instrumentErrors;

/** What such instruments answer where the reading is above the range. Source: SCPI-1999, 9.9E37 stands for infinity; from memory. */
export const overRange = 9.9e37;

/** A number as such instruments send it. */
export const sendNumber = (value: number): string => (value >= 0 ? '+' : '') + value.toExponential(6).toUpperCase();
