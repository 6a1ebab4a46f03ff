import type { Body, Difference, Kind } from '@rackle/core/show';
import { Button } from '../../ui/Button';
import { thingKey } from './thingKey';
import { Nothing } from './TwoSides';
import { useBringBack } from './useBringBack';

/** What has changed since, thing by thing; each can be brought back alone. */
export function Differences({
  kind,
  body,
  savedAt,
  found,
}: {
  kind: Kind;
  body: Body;
  savedAt: string;
  found: readonly Difference[];
}) {
  const back = useBringBack();
  const things = new Map<string, Difference[]>();
  for (const one of found) things.set(thingKey(one.thing), [...(things.get(thingKey(one.thing)) ?? []), one]);
  if (found.length === 0) return <Nothing>Nothing: it stands so now.</Nothing>;
  return (
    <ul aria-label="what differs">
      {[...things].map(([key, ofThing]) => {
        const words = joined(ofThing.map((one) => one.words));
        return (
          <li key={key} className="flex items-center gap-3 border-b border-rule py-1">
            <span className="min-w-0 flex-1 first-letter:uppercase">{words}</span>
            <Button
              look="plain"
              aria-label={`bring back: ${words}`}
              onClick={() => back.thing(kind, body, ofThing[0].thing, words, savedAt)}
            >
              bring back
            </Button>
          </li>
        );
      })}
    </ul>
  );
}

/** “Chorus: Strings −3 dB”, “Chorus: Strings from C4 → E4” read “Chorus: Strings −3 dB, from C4 → E4”. */
function joined(words: readonly string[]): string {
  const [first, ...rest] = words;
  return [first, ...rest.map((one) => one.slice(sharedStart(first, one)))].join(', ');
}

/** How far two lines begin with the same words. */
function sharedStart(a: string, b: string): number {
  let same = 0;
  while (same < a.length && a[same] === b[same]) same++;
  return b.lastIndexOf(' ', same) + 1;
}
