import type { RoleInUse } from '@rackle/core/controls';
import { withBindings } from '@rackle/core/show';
import { useApp, useEdit, useHost, useSong } from '../../state/hooks';
import { Button } from '../../ui/Button';

/** While learn waits: for what, and the keys that lead it. Nothing that is moved now is played. */
export function LearnBar({ roles }: { roles: readonly RoleInUse[] }) {
  const host = useHost();
  const learn = useApp(({ live }) => live.controls.learn);
  if (!learn) return null;
  const role = roles.find((candidate) => candidate.role === learn.waitsFor) ?? null;
  return (
    <div
      role="status"
      data-testid="learn"
      className="sticky top-0 z-20 flex flex-wrap items-center gap-x-4 bg-ink px-4 py-2 text-ground"
    >
      <span className="whitespace-nowrap text-lg">
        {learn.isMoving ? (
          'I see it …'
        ) : (
          <>
            Move what plays <b className="named text-2xl">{learn.waitsFor}</b>
          </>
        )}
      </span>
      <span className="text-[13px]">
        {exampleFor(role)}
        {learn.left > 1 ? ` · ${learn.left - 1} more after it` : ''} · nothing sounds meanwhile
      </span>
      {learn.taken && <Taken taken={learn.taken} role={role} />}
      <span className="ml-auto flex flex-wrap gap-1 whitespace-nowrap text-[13px]">
        <Button look="plain" onClick={() => host.post({ type: 'learnConfirm' })}>
          {learn.taken ? 'take it over' : 'that is it'} (Enter)
        </Button>
        <Button look="plain" onClick={() => host.post({ type: 'learnUndo' })}>
          undo the last (⌫)
        </Button>
        <Button look="plain" onClick={() => host.post({ type: 'learnSkip' })}>
          leave it (Tab)
        </Button>
        <Button look="plain" onClick={() => host.post({ type: 'learn', roles: [] })}>
          stop (Esc)
        </Button>
      </span>
    </div>
  );
}

/** What to do, by what the role does. */
function exampleFor(role: RoleInUse | null): string {
  if (role?.isValue === true) return 'for example: turn the knob, or push the pedal, all the way and back';
  if (role?.isValue === false) return 'for example: press the pedal, pad or key and let it go, twice';
  return 'for example: press a pedal twice, or turn a knob all the way and back';
}

/** A control that another role has: whose it is, and using it in this song only. Taking it over is Enter. */
function Taken({ taken, role }: { taken: { by: string; saw: string }; role: RoleInUse | null }) {
  const host = useHost();
  const edit = useEdit();
  const songId = useApp(({ live }) => live.place.songId);
  const song = useSong(songId);
  const uses = role?.uses ?? [];
  const use = uses.find((one) => one.songId === songId) ?? uses.findLast((one) => one.songId === null);
  const useHere = (): void => {
    if (!song || !use) return;
    const binding = { ...use.binding, role: taken.by as typeof use.binding.role };
    edit({
      label: `let ${taken.by} do in ${song.name} what ${role!.role} does`,
      songs: [withBindings(song, null, (bindings) => [...bindings, binding])],
    });
    host.post({ type: 'learnSkip' });
  };
  return (
    <span role="alert" className="flex flex-wrap items-center bg-ground px-1.5 text-ink">
      <b>
        {taken.saw} plays {taken.by} already
      </b>
      {song && use && (
        <Button look="plain" onClick={useHere}>
          use it so in {song.name} only
        </Button>
      )}
    </span>
  );
}
