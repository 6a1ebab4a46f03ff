import { useApp, useHost } from '../../state/hooks';
import { Button } from '../../ui/Button';

/** While learn waits: for what, and the keys that lead it. Nothing that is moved now is played. */
export function LearnBar() {
  const host = useHost();
  const learn = useApp(({ live }) => live.controls.learn);
  if (!learn) return null;
  return (
    <div
      role="status"
      data-testid="learn"
      className="sticky top-0 z-20 flex items-center gap-4 bg-ink px-4 py-2 text-ground"
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
      <span className="text-[13px] opacity-80">
        twice, or both ways{learn.left > 1 ? ` · ${learn.left - 1} more after it` : ''} · nothing sounds meanwhile
      </span>
      {learn.taken && (
        <span role="alert" className="bg-ground px-1.5 font-bold text-ink">
          {learn.taken.saw} plays {learn.taken.by} already
        </span>
      )}
      <span className="ml-auto flex gap-1 whitespace-nowrap text-[13px]">
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
