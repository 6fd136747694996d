import { Link } from 'react-router';
import { useNewBank } from '../../app/commands.ts';
import { Button } from '../../ui/button.tsx';
import { StartSomething } from './pictures.tsx';

/** What a new rig may be. */
export function StartView() {
  const newBank = useNewBank();
  return (
    <main className="mx-auto w-full max-w-[1500px] p-5">
      <h1 className="text-2xl font-bold">Start something</h1>
      <p className="mt-1 mb-4 max-w-3xl">
        Each asks a few things and makes a whole rig of them: supply, store, switch, load, bleeder, stick and meter that fit each
        other. What you did not type is marked as assumed.
      </p>
      <StartSomething large />
      <p className="mt-5">
        New to it?{' '}
        <Link className="text-select underline" to="/guide">
          Walk-throughs
        </Link>{' '}
        go from a starter to the shot book: a first bank, a first Marx, a first coilgun.
      </p>
      <p className="mt-5">
        Or with nothing asked:{' '}
        <Button look="quiet" onClick={() => void newBank()}>
          New capacitor bank
        </Button>
        of 1000 µF at 48 V, to be changed block by block.
      </p>
    </main>
  );
}
