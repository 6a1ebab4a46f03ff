import { useNavigate } from 'react-router';
import type { Instrument } from '@rackle/core/show';
import { useEdit, useSongs } from '../../state/hooks';
import { Button } from '../../ui/Button';

/** Which songs play an instrument; one that none plays can be removed. */
export function PlayedIn({ instrument }: { instrument: Instrument }) {
  const edit = useEdit();
  const navigate = useNavigate();
  const songs = Object.values(useSongs());
  const uses = songs.filter(({ layers }) => layers.some(({ sound }) => sound.instrumentId === instrument.id));
  if (uses.length > 0) return <span className="text-ink2">played in {uses.map(({ name }) => name).join(', ')}</span>;
  return (
    <>
      <span className="text-ink2">no song plays it</span>
      <Button
        look="plain"
        onClick={() => {
          edit({ label: `remove ${instrument.name}`, instruments: [{ id: instrument.id, deleted: true }] });
          void navigate('/sounds');
        }}
      >
        remove it
      </Button>
    </>
  );
}
