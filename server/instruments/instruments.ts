import type { Asked, InstrumentHead, Measured, StoredRun } from '@vast-surge/contract';
import { allowedLines, askableKinds, overRange, refusedLine, type AskableKind } from '@vast-surge/core/instrument';
import { uniforms } from '@vast-surge/core/numeric';
import { rehearsalInstruments, worldAt, type Rehearsal, type RehearsalInstrument } from '@vast-surge/core/rehearsal';
import { HttpFault } from '../http/fault.ts';
import { InstrumentAway, query, tell, type Address } from './link.ts';
import { startStandIn, type StandIn } from './stand-in.ts';

/** An instrument that may be asked, by the name it was given. */
export interface Allowed extends Address {
  readonly name: string;
  readonly kind: AskableKind;
}

/**
 * Reads the list of instruments that may be asked: `hand meter=192.168.1.20:5025; scope=scope@127.0.0.1:5026`. What no kind is said of is a
 * bench meter: of its kind depends what may be sent to it.
 *
 * @throws Error naming the entry that cannot be read
 */
export function readAllowed(text: string): Allowed[] {
  return text
    .split(';')
    .map((entry) => entry.trim())
    .filter((entry) => entry !== '')
    .map((entry) => {
      const [, name = '', written = 'bench-meter', host = '', port = ''] =
        /^([^=]{1,40})=\s*(?:([a-z-]+)@)?([A-Za-z0-9.-]+):(\d{1,5})$/.exec(entry) ?? [];
      if (name === '' || Number(port) < 1 || Number(port) > 65_535)
        throw new Error(`"${entry}" must be a name, =, an address, a colon and a port from 1 to 65535`);
      const kind = askableKinds.find((one) => one === written);
      if (!kind) throw new Error(`"${entry}": the kind ${written} must be one of ${askableKinds.join(', ')}`);
      return { name: name.trim(), kind, host, port: Number(port) };
    });
}

/** A rehearsal whose instruments stand, by their ids. */
interface Playing {
  readonly standIns: ReadonlyMap<string, StandIn>;
  run: StoredRun;
}

const isStandIn = (id: string) => rehearsalInstruments.some((i) => i.id === id);

/** What each kind is asked for where its reading is wanted. */
const readingOf: { readonly [K in AskableKind]: string } = {
  'bench-meter': 'MEAS:VOLT:DC?',
  'high-voltage-probe': 'MEAS:VOLT:DC?',
  'field-meter': 'MEAS:VOLT:STAT?',
  charger: 'MEAS:VOLT:DC?',
  'pressure-gauge': 'MEAS:PRES?',
  scope: 'MEAS:VPP?',
};

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
      ...rehearsalInstruments.flatMap(({ id, title, kind, unit, readsStore }): InstrumentHead[] => {
        const standIn = standIns.get(id);
        return standIn
          ? [{ id, title, address: text(standIn.address), isStandIn: true, unit, readsStore, asks: allowedLines(kind.kind) }]
          : [];
      }),
      ...this.allowed.map((one): InstrumentHead => ({
        id: one.name,
        title: one.name,
        address: text(one),
        isStandIn: false,
        unit: one.kind === 'pressure-gauge' ? ('Pa' as const) : ('V' as const),
        readsStore: ['bench-meter', 'high-voltage-probe', 'field-meter'].includes(one.kind),
        asks: allowedLines(one.kind),
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

  private kindOf(id: string): AskableKind {
    return (
      rehearsalInstruments.find((i) => i.id === id)?.kind.kind ?? this.allowed.find((a) => a.name === id)?.kind ?? 'bench-meter'
    );
  }

  /**
   * What an instrument answers to a command; nothing is waited for behind a setting, which has no answer.
   *
   * @throws HttpFault where the instrument is not on the list, the command not on that of its kind, or where it does not answer
   */
  async ask(run: StoredRun, id: string, line: string): Promise<Asked> {
    const address = await this.addressOf(run, id);
    const refused = refusedLine(this.kindOf(id), line);
    if (refused !== null) throw new HttpFault('bad_input', [{ path: 'line', reason: refused }], `line ${refused}`.slice(0, 1000));
    try {
      if (!/\?\s*$/.test(line)) {
        await tell(address, line);
        return { reply: '' };
      }
      return { reply: await query(address, line) };
    } catch (error) {
      if (error instanceof InstrumentAway) throw new HttpFault('instrument_away', [], error.message);
      throw error;
    }
  }

  /** What an instrument reads now. @throws HttpFault where it does not answer, or not with a number */
  async measure(run: StoredRun, id: string): Promise<Measured> {
    const { reply } = await this.ask(run, id, rehearsalInstruments.find((i) => i.id === id)?.asks ?? readingOf[this.kindOf(id)]);
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
