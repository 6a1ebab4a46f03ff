import { Link, useParams } from 'react-router';
import { builtIn } from '@rackle/core/show';
import { useApp } from '../../state/hooks';
import { BankPage } from './BankPage';
import { OutboardPage } from './OutboardPage';
import { RecordingsPage } from './RecordingsPage';
import { ShapePage } from './ShapePage';

/** The page of an instrument, by what kind it is. */
export function InstrumentPage() {
  const { instrumentId = '' } = useParams();
  const stored = useApp(({ show }) => show.working.instruments[instrumentId] ?? null);
  const made = builtIn(stored?.kind === 'own' ? stored.of : instrumentId);
  if (made) return <ShapePage key={made.id} instrument={made} />;
  switch (stored?.kind) {
    case 'outboard':
      return <OutboardPage key={stored.id} instrument={stored} />;
    case 'bank':
      return <BankPage key={stored.id} instrument={stored} />;
    case 'recordings':
      return <RecordingsPage key={stored.id} instrument={stored} />;
    default:
      return (
        <p className="p-6 text-lg">
          This instrument is not there any more.{' '}
          <Link to="/sounds" className="inline-flex items-center underline decoration-dotted">
            To the sounds
          </Link>
        </p>
      );
  }
}
