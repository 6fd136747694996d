/** An interlock chain as it is wired: contacts in series feed the coils that hold the dumps open and enable the charger. */
export interface Chain {
  /** Contacts of the door switch in the chain, 0 to 2. */
  readonly doorContacts: number;
  readonly hasStop: boolean;
  readonly hasKey: boolean;
  /** Held open by power through the chain, so that they fall in without it; or driven closed by a command that needs power. */
  readonly dumpsBy: 'falling' | 'driven';
  readonly dumps: number;
  /** What else the chain carries. */
  readonly charger: boolean;
  readonly trigger: boolean;
}

/** What may break in it, one at a time. */
export interface ChainFault {
  readonly id: string;
  readonly title: string;
  /** Of the control side, whose single failure must not matter; a dump that sticks is met otherwise on a small store. */
  readonly of: 'contact' | 'dump' | 'power';
}

export interface ChainState {
  readonly dumpClosed: boolean;
  readonly chargerOn: boolean;
  readonly triggerLive: boolean;
}

/** What a person does with it: the door, the key, the stop. */
export interface Hands {
  readonly doorOpen: boolean;
  readonly keyOn: boolean;
  readonly stopPressed: boolean;
  /** Somebody asked for the dump; counts where dumps are driven. */
  readonly dumpAsked: boolean;
}

const none: ChainFault = { id: 'none', title: 'nothing', of: 'power' };

/** Every single failure of a chain. */
export function chainFaults({ doorContacts, hasStop, hasKey, dumps }: Chain): readonly ChainFault[] {
  const contacts = [
    ...Array.from({ length: doorContacts }, (_, i) => ({
      id: `door-${i + 1}`,
      title: doorContacts > 1 ? `door contact ${i + 1} welded` : 'the door contact welded',
    })),
    ...(hasStop ? [{ id: 'stop', title: 'the contact of the emergency stop welded' }] : []),
    ...(hasKey ? [{ id: 'key', title: 'the contact of the key welded' }] : []),
  ];
  return [
    none,
    ...contacts.map((one): ChainFault => ({ ...one, of: 'contact' })),
    ...Array.from({ length: dumps }, (_, i): ChainFault => ({
      id: `dump-${i + 1}`,
      title: dumps > 1 ? `dump ${i + 1} sticks open` : 'the dump sticks open',
      of: 'dump',
    })),
    { id: 'power', title: 'the control power lost', of: 'power' },
  ];
}

/** Where dumps, charger and trigger stand, with the hands somewhere and one thing broken. */
export function chainState(chain: Chain, hands: Hands, fault: ChainFault = none): ChainState {
  const welded = (id: string) => fault.id === id;
  const door = Array.from({ length: chain.doorContacts }, (_, i) => !hands.doorOpen || welded(`door-${i + 1}`));
  const stop = !chain.hasStop || !hands.stopPressed || welded('stop');
  const key = !chain.hasKey || hands.keyOn || welded('key');
  const power = !welded('power');
  const live = power && door.every(Boolean) && stop && key;
  const works = Array.from({ length: chain.dumps }, (_, i) => !welded(`dump-${i + 1}`));
  // A driven dump needs a command and power; the chain itself gives the command where it opens.
  const asked = chain.dumpsBy === 'falling' ? !live : power && (!live || hands.dumpAsked);
  return {
    dumpClosed: asked && works.some(Boolean),
    chargerOn: chain.charger ? live : hands.keyOn && power,
    triggerLive: chain.trigger ? live : power,
  };
}

/** Somebody came in without a thought: the door open, the key still on. */
export const behindDoor: Hands = { doorOpen: true, keyOn: true, stopPressed: false, dumpAsked: false };

/** A single failure with which somebody at the open door meets a store that is not dumped, or a charger or a trigger that is live. */
export interface ChainHole {
  readonly fault: ChainFault;
  readonly what: 'the dump is open' | 'the charger is on' | 'the trigger is live';
}

/**
 * Every single failure that leaves something live behind an open door, the key still on, by trying them all.
 *
 * @param strict a dump that sticks counts as well: of a store that is too much for a stick
 */
export function chainHoles(chain: Chain, strict: boolean): readonly ChainHole[] {
  return chainFaults(chain).flatMap((fault): ChainHole[] => {
    const { dumpClosed, chargerOn, triggerLive } = chainState(chain, behindDoor, fault);
    // Without any dump there is none to be open: that the store stays charged is said of the rig.
    const isMet = chain.dumps === 0 || (fault.of === 'dump' && !strict);
    return [
      ...(dumpClosed || isMet ? [] : [{ fault, what: 'the dump is open' } as const]),
      ...(chargerOn ? [{ fault, what: 'the charger is on' } as const] : []),
      ...(triggerLive ? [{ fault, what: 'the trigger is live' } as const] : []),
    ];
  });
}

/** What is done in each phase of a run, for the drawing of the chain. */
export const chainPhases: readonly { readonly id: string; readonly title: string; readonly hands: Hands }[] = [
  {
    id: 'in',
    title: 'somebody inside, door open',
    hands: { doorOpen: true, keyOn: false, stopPressed: false, dumpAsked: false },
  },
  { id: 'shut', title: 'door shut, key off', hands: { doorOpen: false, keyOn: false, stopPressed: false, dumpAsked: false } },
  { id: 'charge', title: 'charging and firing', hands: { doorOpen: false, keyOn: true, stopPressed: false, dumpAsked: false } },
  { id: 'dump', title: 'dump asked for', hands: { doorOpen: false, keyOn: false, stopPressed: false, dumpAsked: true } },
  { id: 'stop', title: 'emergency stop', hands: { doorOpen: false, keyOn: true, stopPressed: true, dumpAsked: false } },
];

/** Joules above which a dump that sticks is not met with a stick any more: two are wanted. DOE-HDBK-1092’s highest class; from memory. */
export const twoDumpsFrom = 10_000;
