import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { ofTheAir, ownIn, type Shot, type Values } from '@vast-surge/core/shot';
import { failureOf, useCreateShotMutation } from '../../app/api.ts';
import { unsavedWords, versionOnceSaved } from '../../app/commands.ts';
import { Button } from '../../ui/button.tsx';
import { RigPicker } from '../../ui/rig-picker.tsx';
import { Sheet } from '../../ui/sheet.tsx';
import { TroubleLine } from '../../ui/trouble-line.tsx';
import { airIn, airOfLast, sameAir } from './air-of-last.ts';
import { ShotFields } from './shot-fields.tsx';
import { useShots } from './use-shots.ts';

const empty: Omit<Shot, 'at'> = { outcome: 'fired', set: {}, measured: {}, own: [], sound: '', remarks: '', campaign: null };

interface OfRig {
  readonly id: string;
  /** Null until the server has told it. */
  readonly version: number | null;
}

/** Writes down a shot of a rig as it stands; which rig is asked unless it is given. */
export function NewShot({ ofRig, onClose }: { ofRig: OfRig | null; onClose: () => void }) {
  const [create, { isLoading }] = useCreateShotMutation();
  const navigate = useNavigate();
  const [picked, setRig] = useState<OfRig | null>(null);
  // Its version may come after the sheet has opened.
  const rig = ofRig ?? picked;
  const [at] = useState(() => new Date().toISOString());
  const [begun, setShot] = useState<Shot | null>(null);
  const [ownAir, setOwnAir] = useState<Values | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [isUnreadable, setUnreadable] = useState(false);
  const { shots: latest } = useShots({ q: '', rig: '', outcome: '' }, false);
  const { shots: ofThisRig } = useShots({ q: '', rig: rig?.id ?? '', outcome: '' }, false);
  const known = useMemo(() => (rig ? ownIn((ofThisRig ?? []).map((one) => one.shot)) : []), [rig, ofThisRig]);
  // Until something is typed the air is that of the shot before, where that was a moment ago.
  const air = airOfLast(latest, at);
  // It may come after the first value was typed.
  const base = begun ?? { ...empty, at };
  const shot = { ...base, set: { ...base.set, ...(ownAir ?? air?.values) } };
  const change = (next: Shot) => {
    const parted = airIn(next.set);
    if (!sameAir(parted.air, airIn(shot.set).air)) setOwnAir(parted.air);
    setShot({ ...next, set: parted.rest });
  };
  const keep = async () => {
    if (!rig || rig.version === null) return;
    const id = crypto.randomUUID();
    try {
      const version = await versionOnceSaved(rig.id, rig.version);
      if (version === null) {
        setTrouble(unsavedWords);
        return;
      }
      await create({ id, rigId: rig.id, version, runId: null, shot }).unwrap();
      void navigate(`/shots/${id}`);
    } catch (error) {
      setTrouble(failureOf(error).message);
    }
  };
  return (
    <Sheet
      title="Log a shot"
      says="What was set and what was read. What is calculated for it is written beside it."
      onClose={onClose}
      width="w-[min(54rem,96vw)]"
    >
      {!ofRig && (
        <div className="mt-3 flex items-center gap-2">
          Rig
          <RigPicker label="Rig" none="Choose …" value={rig?.id ?? ''} onPick={setRig} />
        </div>
      )}
      <div className="mt-3">
        <ShotFields
          shot={shot}
          known={known}
          airAsAt={air && ofTheAir.every((id) => shot.set[id] === air.values[id]) ? air.at : null}
          onShot={change}
          onTrouble={setUnreadable}
        />
      </div>
      <TroubleLine className="mt-2">{trouble}</TroubleLine>
      <div className="mt-4 flex gap-3">
        <Button
          look="primary"
          disabled={!rig || rig.version === null || isLoading || isUnreadable}
          className="disabled:opacity-50"
          onClick={() => void keep()}
        >
          Save shot
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </div>
    </Sheet>
  );
}
