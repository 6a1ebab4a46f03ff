import { Link } from 'react-router';
import { sameBody, type Body, type Kind } from '@rackle/core/show';
import { Button } from '../../ui/Button';
import { asItWasPath } from './asItWasPath';
import { useBringBack } from './useBringBack';

/** The ways back to one thing as it was: looked at on its own page, or brought back whole. */
export function LookOrBringBack({
  source,
  kind,
  body,
  now,
  savedAt,
}: {
  source: string;
  kind: Kind;
  body: Body;
  now: Body | null;
  savedAt: string;
}) {
  const back = useBringBack();
  const path = asItWasPath(source, kind, body.id);
  const isSame = now !== null && sameBody(now, body);
  return (
    <p className="mt-2 flex flex-wrap items-center gap-2">
      {path !== null && (
        <Link
          to={path}
          className="inline-flex min-h-9 items-center rounded-sm border border-ink px-3 font-bold hover:bg-ground2"
        >
          Look at it as it was
        </Link>
      )}
      <Button disabled={isSame} onClick={() => back.all(kind, body, savedAt)}>
        {now === null ? 'Bring it back' : 'Bring all of it back'}
      </Button>
      {isSame && <span className="text-ink2">It stands so now.</span>}
    </p>
  );
}
