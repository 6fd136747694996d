import type { Asked, InstrumentHead, Measured, StoredRun } from '@vast-surge/contract';
import { overRange } from '@vast-surge/core/instrument';
import { uniforms } from '@vast-surge/core/random';
import { rehearsalInstruments, worldAt, type Rehearsal, type RehearsalInstrument } from '@vast-surge/core/rehearsal';
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

/** A rehearsal whose instruments stand, by their ids. */
interface Playing {
  readonly standIns: ReadonlyMap<string, StandIn>;
  run: StoredRun;
}

const isStandIn = (id: string) => rehearsalInstruments.some((i) => i.id === id);

/** What a real instrument is asked for: it is a voltmeter, as far as the list says. */
const voltage = 'MEAS:VOLT:DC?';

/** Rehearsals whose stand-ins are kept; the oldest goes when there is one more. */
const mostPlaying = 20;

/** The instruments of the workshop: those that are on the list, and the stand-ins of rehearsals. Nothing else is ever asked. */
export class Instruments {
  private readonly allowed: readonly Allowed[];
  private readonly playing = new Map<string, Playing>();

  constructor(allowed: readonly Allowed[]) {
    this.allowed = allowed;
  }

  /** Those on the list; for a rehearsal its stand-ins as well. */
  async list(run: StoredRun | null): Promise<InstrumentHead[]> {
    const standIns = run?.rehearsal ? await this.standInsOf(run, run.rehearsal) : new Map<string, StandIn>();
    const text = ({ host, port }: Address) => `${host}:${port}`;
    return [
      ...rehearsalInstruments.flatMap(({ id, title, unit, readsStore }): InstrumentHead[] => {
        const standIn = standIns.get(id);
        return standIn ? [{ id, title, address: text(standIn.address), isStandIn: true, unit, readsStore }] : [];
      }),
      ...this.allowed.map((one): InstrumentHead => ({
        id: one.name,
        title: one.name,
        address: text(one),
        isStandIn: false,
        unit: 'V',
        readsStore: true,
      })),
    ];
  }

  /** The address of an instrument for a run. @throws HttpFault where it is not on the list, or not for this run */
  private async addressOf(run: StoredRun, id: string): Promise<Address> {
    if (isStandIn(id)) {
      const { rehearsal } = run;
      const standIn = rehearsal && (await this.standInsOf(run, rehearsal)).get(id);
      if (standIn) return standIn.address;
      throw new HttpFault('bad_input', [{ path: 'instrument', reason: 'is a stand-in, and this run is live' }]);
    }
    const known = this.allowed.find((a) => a.name === id);
    if (known) return known;
    throw new HttpFault(
      'bad_input',
      [{ path: 'instrument', reason: 'is not on the list of instruments that may be asked' }],
      `instrument: "${id}" is not on the list of instruments that may be asked (VAST_SURGE_INSTRUMENTS).`,
    );
  }

  private async standInsOf(run: StoredRun, rehearsal: Rehearsal): Promise<ReadonlyMap<string, StandIn>> {
    const known = this.playing.get(run.id);
    if (known) {
      known.run = run;
      return known.standIns;
    }
    const standIns = new Map<string, StandIn>();
    this.playing.set(run.id, { standIns, run });
    for (const instrument of rehearsalInstruments) standIns.set(instrument.id, await this.start(run, rehearsal, instrument));
    for (const [id, { standIns: old }] of this.playing) {
      if (this.playing.size <= mostPlaying) break;
      for (const standIn of old.values()) standIn.close();
      this.playing.delete(id);
    }
    return standIns;
  }

  private start(run: StoredRun, rehearsal: Rehearsal, instrument: RehearsalInstrument): Promise<StandIn> {
    const uniform = uniforms(rehearsal.seed);
    const standing = () => {
      const now = this.playing.get(run.id)?.run ?? run;
      // The rehearsal runs by the clock of the screen that acts.
      const last = now.events.at(-1);
      const ahead = last ? last.event.at - Date.parse(last.receivedAt) : 0;
      const events = now.events.map((e) => e.event);
      return { plan: now.plan, rehearsal, world: worldAt(now.plan, rehearsal, events, Date.now() + ahead) };
    };
    const { own } = instrument;
    return startStandIn(instrument.kind, {
      terminal: () => ({ ...instrument.terminal(standing()), uniform }),
      ...(own ? { own: () => own(standing()) } : {}),
    });
  }

  /** What an instrument answers to a line. @throws HttpFault where it is not on the list or does not answer */
  async ask(run: StoredRun, id: string, line: string): Promise<Asked> {
    const address = await this.addressOf(run, id);
    try {
      return { reply: await query(address, line) };
    } catch (error) {
      if (error instanceof InstrumentAway) throw new HttpFault('instrument_away', [], error.message);
      throw error;
    }
  }

  /** What an instrument reads now. @throws HttpFault where it does not answer, or not with a number */
  async measure(run: StoredRun, id: string): Promise<Measured> {
    const { reply } = await this.ask(run, id, rehearsalInstruments.find((i) => i.id === id)?.asks ?? voltage);
    const value = Number(reply);
    if (reply === '' || !Number.isFinite(value))
      throw new HttpFault('instrument_away', [], `The instrument answered "${reply.slice(0, 60)}", which is no number.`);
    return { value: Math.abs(value) >= overRange / 10 ? null : value, reply };
  }

  close(): void {
    for (const { standIns } of this.playing.values()) for (const standIn of standIns.values()) standIn.close();
    this.playing.clear();
  }
}
