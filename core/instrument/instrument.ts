import type { AskableKind } from './allowed.ts';
import { instrumentErrors, longestMessage, matches, parseMessage, type Command, type InstrumentError } from './command.ts';

/** What stands at the terminals of an instrument. */
export interface Terminal {
  /** V across its inputs, or across the store for what does not touch it. */
  readonly volts: number;
  /** Pa absolute, for a gauge. */
  readonly pressure?: number;
  /** V over time at its input, t in s from the trigger, for a scope. */
  signal?(t: number): number;
  /** Numbers from 0 to below 1, for noise. */
  uniform(): number;
}

/** What an instrument has set and suffered, besides what its kind keeps. */
export interface InstrumentState<S> {
  readonly own: S;
  readonly errors: readonly InstrumentError[];
}

export interface Answer<S> {
  readonly own?: S;
  readonly reply?: string;
  readonly error?: InstrumentError;
}

type Handler<S> = (own: S, at: Terminal, command: Command) => Answer<S>;

/** A stand-in for a kind of instrument: what it keeps, and what it does at each command. */
export interface InstrumentKind<S> {
  readonly kind: AskableKind;
  readonly title: string;
  readonly initial: S;
  /** Headers in their long form, with a question mark where they are queries. */
  readonly commands: Readonly<Record<string, Handler<S>>>;
  /** What happens to it by what stands at its terminals, whether anybody asks or not. */
  suffers(own: S, at: Terminal): S;
}

export const startInstrument = <S>(kind: InstrumentKind<S>): InstrumentState<S> => ({ own: kind.initial, errors: [] });

/** Errors that are kept; what comes after is dropped, as instruments do. */
const queue = 16;

const noted = <S>(state: InstrumentState<S>, error: InstrumentError | undefined): InstrumentState<S> =>
  error === undefined ? state : { ...state, errors: [...state.errors, error].slice(0, queue) };

function common<S>(kind: InstrumentKind<S>, state: InstrumentState<S>, { header, isQuery }: Command) {
  const is = (h: string, query: boolean) => header === h && isQuery === query;
  if (is('*IDN', true)) return { state, reply: `Vast Surge,${kind.kind} stand-in,0,1` };
  if (is('*RST', false)) return { state: { own: kind.initial, errors: state.errors } };
  if (is('*CLS', false)) return { state: { ...state, errors: [] } };
  if (is('*OPC', true)) return { state, reply: '1' };
  if (is('*ESR', true)) return { state, reply: state.errors.length > 0 ? '32' : '0' };
  if (isQuery && (matches('SYSTem:ERRor', header) || matches('SYSTem:ERRor:NEXT', header))) {
    const [first = 'none', ...rest] = state.errors;
    const [code, words] = instrumentErrors[first];
    return { state: { ...state, errors: rest }, reply: `${code},"${words}"` };
  }
  return null;
}

/**
 * One line, as an instrument takes it.
 *
 * @returns its state after it, and its answer: of several queries their answers with semicolons between; null where nothing was asked
 */
export function respond<S>(
  kind: InstrumentKind<S>,
  before: InstrumentState<S>,
  line: string,
  at: Terminal,
): { readonly state: InstrumentState<S>; readonly reply: string | null } {
  let state: InstrumentState<S> = { ...before, own: kind.suffers(before.own, at) };
  if (line.length > longestMessage) return { state: noted(state, 'tooLong'), reply: null };
  const replies: string[] = [];
  for (const command of parseMessage(line)) {
    const known = common(kind, state, command);
    if (known) {
      state = known.state;
      if (known.reply !== undefined) replies.push(known.reply);
      continue;
    }
    const [, handler] =
      Object.entries(kind.commands).find(([h]) => h.endsWith('?') === command.isQuery && matches(h, command.header)) ?? [];
    if (!handler) {
      state = noted(state, /^[*A-Z0-9:]+$/.test(command.header) ? 'undefined' : 'syntax');
      continue;
    }
    const answer = handler(state.own, at, command);
    state = noted(answer.own === undefined ? state : { ...state, own: answer.own }, answer.error);
    if (answer.reply !== undefined) replies.push(answer.reply);
  }
  return { state, reply: replies.length > 0 ? replies.join(';') : null };
}

/** The number of a parameter, within bounds; else the error to keep. */
export function numberOf(command: Command, low: number, high: number): number | InstrumentError {
  const [text] = command.parameters;
  if (text === undefined) return 'missing';
  const value = Number(text);
  return text === '' || !Number.isFinite(value) ? 'syntax' : value < low || value > high ? 'range' : value;
}
