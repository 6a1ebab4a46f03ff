import { kindInWords, type Learned } from '@rackle/core/controls';
import { RoleSource, type GearList } from '@rackle/core/show';
import { useEdit } from '../../state/hooks';
import { Button } from '../../ui/Button';

/** What learn saw, how sure it is, what else it could be, and what to know about such a control. */
export function LearnedNote({ gear, role, learned }: { gear: GearList; role: string; learned: Learned }) {
  const edit = useEdit();
  const at = gear.roles.map((entry) => entry.role).lastIndexOf(role);
  const present = gear.roles[at];
  if (!present) return null;
  const take = (other: Learned['others'][number]): void => {
    const next = RoleSource.parse({ ...present, source: other.source, button: other.button });
    edit({
      label: `correct ${role}`,
      gearLists: [{ ...gear, roles: gear.roles.map((entry) => (entry === present ? next : entry)) }],
    });
  };
  return (
    <p role="status" data-testid="learned" className="bg-ground2 px-3 py-1 text-[13px] leading-6">
      <b>{learned.sure >= 0.9 ? 'Sure' : learned.sure >= 0.7 ? 'Fairly sure' : 'Not sure'}:</b> {learned.saw}.
      {learned.others.length > 0 && (
        <>
          {' '}
          It could also be{' '}
          {learned.others.map((other, i) => (
            <span key={other.kind}>
              {i > 0 && ' or '}
              <Button look="plain" onClick={() => take(other)}>
                {kindInWords(other.kind)}
              </Button>
            </span>
          ))}
        </>
      )}
      {learned.advice && <span className="block leading-5 text-ink2">{learned.advice}</span>}
    </p>
  );
}
