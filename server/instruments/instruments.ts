import { rehearsalMeterId, type InstrumentHead, type Measured, type StoredRun } from '@vast-surge/contract';
import { benchMeter, overRange } from '@vast-surge/core/instrument';
import { uniforms } from '@vast-surge/core/random';
import { meterIn, worldAt } from '@vast-surge/core/rehearsal';
import { HttpFault } from '../http/fault.ts';
import { InstrumentAway, query, type Address } from './link.ts';
import { startStandIn, type StandIn } from './stand-in.ts';

/** An instrument that may be asked, by the name it was given. */
export interface Allowed extends Address {
  readonly name: string;
}

/**
 * Reads the list of instruments that may be asked: `hand meter=192.168.1.20:5025; probe=127.0.0.1:5026`.
 *
 * @throws Error naming the entry that cannot be read
 */
export function readAllowed(text: string): Allowed[] {
  return text
    .split(';')
    .map((entry) => entry.trim())
    .filter((entry) => entry !== '')
    .map((entry) => {
      const [, name = '', host = '', port = ''] = /^([^=]{1,40})=\s*([A-Za-z0-9.-]+):(\d{1,5})$/.exec(entry) ?? [];
      if (name === '' || Number(port) < 1 || Number(port) > 65_535)
        throw new Error(`"${entry}" must be a name, =, an address, a colon and a port from 1 to 65535`);
      return { name: name.trim(), host, port: Number(port) };
    });
}

interface Playing {
  readonly standIn: StandIn;
  run: StoredRun;
}

/** Rehearsals whose stand-ins are kept; the oldest goes when there is one more. */
const mostPlaying = 20;

/** The instruments of the workshop: those that are on the list, and the stand-ins of rehearsals. Nothing else is ever asked. */
export class Instruments {
  private readonly allowed: readonly Allowed[];
  private readonly playing = new Map<string, Playing>();

  constructor(allowed: readonly Allowed[]) {
    this.allowed = allowed;
  }

  list(): InstrumentHead[] {
    return [
      { id: rehearsalMeterId, title: 'Meter of the rehearsal', address: 'loopback', isStandIn: true },
      ...this.allowed.map(({ name, host, port }) => ({ id: name, title: name, address: `${host}:${port}`, isStandIn: false })),
    ];
  }

  /** The address of an instrument for a run. @throws HttpFault where it is not on the list, or not for this run */
  private async addressOf(run: StoredRun, id: string): Promise<Address> {
    if (id === rehearsalMeterId) return (await this.standInOf(run)).address;
    const known = this.allowed.find((a) => a.name === id);
    if (known) return known;
    throw new HttpFault(
      'bad_input',
      [{ path: 'instrument', reason: 'is not on the list of instruments that may be asked' }],
      `instrument: "${id}" is not on the list of instruments that may be asked (VAST_SURGE_INSTRUMENTS).`,
    );
  }

  private async standInOf(run: StoredRun): Promise<StandIn> {
    const { rehearsal } = run;
    if (!rehearsal) throw new HttpFault('bad_input', [{ path: 'instrument', reason: 'is a stand-in, and this run is live' }]);
    const known = this.playing.get(run.id);
    if (known) {
      known.run = run;
      return known.standIn;
    }
    const uniform = uniforms(rehearsal.seed);
    const world = () => {
      const now = this.playing.get(run.id)?.run ?? run;
      // The rehearsal runs by the clock of the screen that acts.
      const last = now.events.at(-1);
      const ahead = last ? last.event.at - Date.parse(last.receivedAt) : 0;
      return {
        run: now,
        world: worldAt(
          now.plan,
          rehearsal,
          now.events.map((e) => e.event),
          Date.now() + ahead,
        ),
      };
    };
    const standIn = await startStandIn(benchMeter, {
      terminal: () => ({ volts: world().world.volts, uniform }),
      state: () => meterIn(run.plan, rehearsal, world().world),
    });
    this.playing.set(run.id, { standIn, run });
    for (const [id, { standIn: old }] of this.playing) {
      if (this.playing.size <= mostPlaying) break;
      old.close();
      this.playing.delete(id);
    }
    return standIn;
  }

  /** The voltage that an instrument reads now. @throws HttpFault where it does not answer, or not with a number */
  async measure(run: StoredRun, id: string): Promise<Measured> {
    const address = await this.addressOf(run, id);
    try {
      const reply = await query(address, 'MEAS:VOLT:DC?');
      const value = Number(reply);
      if (reply === '' || !Number.isFinite(value))
        throw new InstrumentAway(`The instrument answered "${reply.slice(0, 60)}", which is no number.`);
      return { value: Math.abs(value) >= overRange / 10 ? null : value, reply };
    } catch (error) {
      if (error instanceof InstrumentAway) throw new HttpFault('instrument_away', [], error.message);
      throw error;
    }
  }

  close(): void {
    for (const { standIn } of this.playing.values()) standIn.close();
    this.playing.clear();
  }
}
