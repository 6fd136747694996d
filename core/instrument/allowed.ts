import { matches, parseMessage } from './command.ts';

/** A line that a page may send: a header in its long form, and what may stand behind it. */
export interface AllowedCommand {
  readonly header: string;
  /** What its parameter may be; a command without this has none. */
  readonly parameter?: { readonly form: RegExp; readonly words: string };
  /** Whether it can be sent without its parameter. */
  readonly isBare?: boolean;
}

const number = { form: /^[+]?\d{1,9}(\.\d{1,9})?(E[+-]?\d{1,2})?$/i, words: 'a number' };
const rangeOf = { form: /^(AUTO|[+]?\d{1,9}(\.\d{1,9})?(E[+-]?\d{1,2})?)$/i, words: 'a number or AUTO' };
const channel = { form: /^(CH|CHAN|CHANnel)?[1-8]$/i, words: 'a channel, such as CH1' };
const format = { form: /^(ASC|ASCii)$/i, words: 'ASC' };

/** Who it is and how it stands: the queries of every kind. `*TST?`, `*CAL?`, `*LRN?` and the like do something, and are not among them. */
const common: readonly AllowedCommand[] = ['*IDN?', '*OPC?', '*ESR?', '*STB?', 'SYSTem:ERRor?', 'SYSTem:ERRor:NEXT?'].map(
  (header) => ({ header }),
);

/**
 * What a page may send to each kind of instrument, beside the common queries: queries, and settings of a readout (its source, its format,
 * its range) that can neither trigger anything nor put voltage anywhere. Nothing that is not on this list is ever sent.
 */
export const allowedCommands = {
  'bench-meter': [
    { header: 'MEASure:VOLTage:DC?' },
    { header: 'FETCh?' },
    { header: 'READ?' },
    { header: 'VOLTage:DC:RANGe?' },
    { header: 'CONFigure:VOLTage:DC', parameter: rangeOf, isBare: true },
    { header: 'VOLTage:DC:RANGe', parameter: rangeOf },
  ],
  'high-voltage-probe': [{ header: 'MEASure:VOLTage:DC?' }, { header: 'PROBe:RATio?' }],
  'field-meter': [
    { header: 'MEASure:VOLTage:STATic?' },
    { header: 'DISTance?' },
    { header: 'DISTance', parameter: { ...number, words: 'a number of metres' } },
  ],
  charger: [{ header: 'MEASure:VOLTage:DC?' }, { header: 'VOLTage?' }, { header: 'OUTPut?' }],
  'pressure-gauge': [{ header: 'MEASure:PRESsure?' }],
  scope: [
    { header: 'MEASure:VPP?' },
    { header: 'CURVe?' },
    { header: 'CHANnel:BANDwidth?' },
    { header: 'CHANnel:SCALe', parameter: number },
    { header: 'CHANnel:PROBe', parameter: number },
    { header: 'ACQuire:POINts', parameter: number },
    { header: 'ACQuire:SRATe', parameter: number },
    { header: 'ACQuire:SRATe?' },
    { header: 'DATA:SOURce', parameter: channel },
    { header: 'DATA:SOURce?' },
    { header: 'WAVeform:FORMat', parameter: format },
    { header: 'WAVeform:FORMat?' },
  ],
} as const satisfies Record<string, readonly AllowedCommand[]>;

/** A kind of instrument that may be asked. */
export type AskableKind = keyof typeof allowedCommands;
export const askableKinds = Object.keys(allowedCommands) as [AskableKind, ...AskableKind[]];

/** Everything that may be sent to a kind, as its manual would write it. */
export const allowedLines = (kind: AskableKind): string[] =>
  [...common, ...(allowedCommands[kind] as readonly AllowedCommand[])].map(({ header, parameter }) =>
    parameter ? `${header} <${parameter.words}>` : header,
  );

/** What stands against sending a line to a kind of instrument; null where it is on the list. */
export function refusedLine(kind: AskableKind, line: string): string | null {
  if (!/^[\x20-\x7e]{2,200}$/.test(line)) return 'must be one line of 2 to 200 plain characters';
  if (line.includes(';')) return 'must be one command: nothing behind a semicolon is sent';
  const [command, ...more] = parseMessage(line);
  if (!command || more.length > 0) return 'must be one command';
  const known = [...common, ...(allowedCommands[kind] as readonly AllowedCommand[])].find(
    ({ header }) => header.endsWith('?') === command.isQuery && matches(header, command.header),
  );
  if (!known) return `is not on the list of what a page may send to this instrument: ${allowedLines(kind).join(', ')}`;
  const { parameters } = command;
  if (!known.parameter) return parameters.length === 0 ? null : `${known.header} takes no parameter`;
  if (parameters.length === 0) return known.isBare ? null : `${known.header} takes ${known.parameter.words}`;
  return parameters.length === 1 && known.parameter.form.test(parameters[0] ?? '')
    ? null
    : `${known.header} takes ${known.parameter.words}`;
}
