import { createServer, type Server, type Socket } from 'node:net';
import { longestMessage, respond, startInstrument, type InstrumentKind, type Terminal } from '@vast-surge/core/instrument';
import type { Address } from './link.ts';

/** What a stand-in looks at whenever something is asked of it: its terminals and, where somebody else keeps that, how it is set. */
export interface Wiring<S> {
  terminal(): Terminal;
  own?(): S;
}

/** A stand-in for an instrument: a server for lines of text, on loopback alone. */
export interface StandIn {
  readonly address: Address;
  close(): void;
}

function serve(socket: Socket, take: (line: string) => string | null): void {
  let text = '';
  socket.setEncoding('ascii');
  socket.on('error', () => socket.destroy());
  socket.on('data', (piece: string) => {
    text += piece;
    for (let stop = text.indexOf('\n'); stop >= 0; stop = text.indexOf('\n')) {
      const reply = take(text.slice(0, stop).trim());
      text = text.slice(stop + 1);
      if (reply !== null) socket.write(`${reply}\n`);
    }
    // A line without an end is none.
    if (text.length > 4 * longestMessage) socket.destroy();
  });
}

/** Starts a stand-in on a free port of loopback. */
export async function startStandIn<S>(kind: InstrumentKind<S>, wiring: Wiring<S>): Promise<StandIn> {
  let state = startInstrument(kind);
  const take = (line: string) => {
    const now = wiring.own ? { ...state, own: wiring.own() } : state;
    const answer = respond(kind, now, line, wiring.terminal());
    state = answer.state;
    return answer.reply;
  };
  const server: Server = createServer((socket) => serve(socket, take));
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(0, '127.0.0.1', resolve);
  });
  // A rehearsal that nobody plays any more keeps no process alive.
  server.unref();
  const address = server.address();
  if (address === null || typeof address === 'string') throw new Error('a stand-in got no port');
  return { address: { host: '127.0.0.1', port: address.port }, close: () => server.close() };
}
