import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { Shot } from '@vast-surge/core/shot';
import { failureOf, useCreateShotMutation } from '../../app/api.ts';
import { Button } from '../../ui/button.tsx';
import { RigPicker } from '../../ui/rig-picker.tsx';
import { Sheet } from '../../ui/sheet.tsx';
import { ShotFields } from './shot-fields.tsx';

const empty = (): Shot => ({ at: new Date().toISOString(), outcome: 'fired', set: {}, measured: {}, sound: '', remarks: '' });

interface OfRig {
  readonly id: string;
  /** Null until the server has told it. */
  readonly version: number | null;
}

/** Writes down a shot of a rig as it stands; which rig is asked unless it is given. */
export function NewShot({ ofRig, onClose }: { ofRig: OfRig | null; onClose: () => void }) {
  const [create, { isLoading }] = useCreateShotMutation();
  const navigate = useNavigate();
  const [rig, setRig] = useState<OfRig | null>(ofRig);
  const [shot, setShot] = useState(empty);
  const [trouble, setTrouble] = useState<string | null>(null);
  const keep = async () => {
    if (!rig || rig.version === null) return;
    const id = crypto.randomUUID();
    try {
      await create({ id, rigId: rig.id, version: rig.version, runId: null, shot }).unwrap();
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
        <ShotFields shot={shot} onShot={setShot} />
      </div>
      {trouble !== null && (
        <p role="alert" className="mt-2 border-l-4 border-over pl-2 font-bold">
          {trouble}
        </p>
      )}
      <div className="mt-4 flex gap-3">
        <Button
          look="primary"
          disabled={!rig || rig.version === null || isLoading}
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
