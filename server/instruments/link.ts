import { createConnection } from 'node:net';

export interface Address {
  readonly host: string;
  readonly port: number;
}

/** An instrument that could not be reached, or said what cannot be understood. */
export class InstrumentAway extends Error {
  constructor(message: string) {
    super(message);
    this.name = 'InstrumentAway';
  }
}

/** An answer is at most so long, in characters. */
const longestReply = 1_000_000;

/**
 * Sends one line to an instrument and waits for its answer, over a connection of its own.
 *
 * @param patience ms
 * @throws InstrumentAway where it is not reached in time, or answers too much
 */
export function query({ host, port }: Address, line: string, patience = 2000): Promise<string> {
  return new Promise((resolve, reject) => {
    const socket = createConnection({ host, port });
    let text = '';
    const end = (settle: () => void) => {
      clearTimeout(timer);
      socket.destroy();
      settle();
    };
    const fail = (why: string) => end(() => reject(new InstrumentAway(`The instrument at ${host}:${port} ${why}.`)));
    const timer = setTimeout(() => fail(`did not answer within ${patience / 1000} s`), patience);
    socket.setEncoding('ascii');
    socket.once('connect', () => socket.write(`${line}\n`));
    socket.on('data', (piece: string) => {
      text += piece;
      const stop = text.indexOf('\n');
      if (stop >= 0) end(() => resolve(text.slice(0, stop).trim()));
      else if (text.length > longestReply) fail('answered with more than a million characters');
    });
    socket.once('error', (error: NodeJS.ErrnoException) => fail(`is not reached (${error.code ?? 'no reason given'})`));
    socket.once('close', () => fail('closed the connection without an answer'));
  });
}

/**
 * Sends one line that is not answered, and closes the connection when it is gone.
 *
 * @throws InstrumentAway where it is not reached in time
 */
export function tell({ host, port }: Address, line: string, patience = 2000): Promise<void> {
  return new Promise((resolve, reject) => {
    const socket = createConnection({ host, port });
    const fail = (why: string) => {
      socket.destroy();
      reject(new InstrumentAway(`The instrument at ${host}:${port} ${why}.`));
    };
    socket.setTimeout(patience, () => fail(`was not reached within ${patience / 1000} s`));
    socket.once('error', (error: NodeJS.ErrnoException) => fail(`is not reached (${error.code ?? 'no reason given'})`));
    socket.once('connect', () => socket.end(`${line}\n`, () => resolve()));
  });
}
