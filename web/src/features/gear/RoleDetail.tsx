import type { RoleInUse } from '@rackle/core/controls';
import type { NameStyle } from '@rackle/core/midi';
import { controlKey, type GearList, type PatchId, type RoleSource, type SongId } from '@rackle/core/show';
import type { ControlState } from '../../protocol';
import { Button } from '../../ui/Button';
import { RoleUses } from './RoleUses';
import { SourceForm } from './SourceForm';

interface Props {
  role: RoleInUse;
  gear: GearList;
  sources: readonly RoleSource[];
  states: ReadonlyMap<string, ControlState>;
  style: NameStyle;
  here: { songId: SongId; patchId: PatchId } | null;
  onLearn: () => void;
}

/** Everything about one role: what it does in which scope, and how its controls move it. */
export function RoleDetail({ role, gear, sources, states, style, here, onLearn }: Props) {
  return (
    <div
      className="grid grid-cols-[1fr_1.1fr] gap-6 border-t border-dotted border-rule bg-ground2/50 px-3 py-3"
      data-testid="role-detail"
    >
      <RoleUses role={role} here={here} />
      <section aria-label={`controls of ${role.role}`}>
        <h3 className="text-[13px] font-bold text-ink2">what plays it</h3>
        {sources.map((source) => (
          <SourceForm
            key={controlKey(source)}
            source={source}
            gear={gear}
            state={states.get(controlKey(source)) ?? null}
            style={style}
            isValue={role.isValue === true}
            onLearn={onLearn}
          />
        ))}
        <p className="mt-2">
          <Button onClick={onLearn}>{sources.length === 0 ? 'Learn its control' : 'Learn another control'}</Button>
        </p>
      </section>
    </div>
  );
}
