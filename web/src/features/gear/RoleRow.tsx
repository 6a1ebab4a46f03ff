import { controlOf, inputsOf, sourceInWords, type Proposal, type RoleInUse } from '@rackle/core/controls';
import { RoleFader, valueOf } from '../hands';
import { controlKey } from '@rackle/core/show';
import type { NameStyle } from '@rackle/core/midi';
import type { GearList, RoleSource } from '@rackle/core/show';
import type { ControlState } from '../../protocol';
import { SHORTCUT_OF } from '../../state/shortcutKeys';
import { Button } from '../../ui/Button';
import { Stamp } from '../../ui/Stamp';

interface Props {
  role: RoleInUse;
  does: string;
  where: string;
  gear: GearList;
  sources: readonly RoleSource[];
  states: ReadonlyMap<string, ControlState>;
  twice: ReadonlySet<RoleSource>;
  alive: (device: string) => boolean;
  style: NameStyle;
  proposal: Proposal | null;
  missed: string | null;
  waits: boolean;
  open: boolean;
  onOpen: () => void;
  onLearn: () => void;
  onTake: (proposal: Proposal) => void;
}

/**
 * One role: on the left what the player uses, on the right what plays it tonight; a line joins them while it is alive.
 */
export function RoleRow({
  role,
  does,
  where,
  gear,
  sources,
  states,
  twice,
  alive,
  style,
  proposal,
  missed,
  waits,
  open,
  onOpen,
  onLearn,
  onTake,
}: Props) {
  return (
    <div
      data-testid="role"
      aria-label={role.role}
      role="group"
      className={`grid min-h-[46px] grid-cols-[minmax(120px,190px)_minmax(120px,1fr)_96px_64px_minmax(240px,1.3fr)] max-[899px]:grid-cols-[minmax(0,150px)_minmax(0,1fr)_64px_16px_minmax(0,1.3fr)] items-center gap-x-3 border-t border-rule ${waits ? 'bg-ground2 outline-2 outline-ink' : ''}`}
    >
      <button
        type="button"
        aria-expanded={open}
        onClick={onOpen}
        className="named truncate py-2 text-left text-xl leading-6 hover:underline"
        title={role.role}
      >
        {role.role}
      </button>
      <span className="min-w-0 text-[13px] leading-4 text-ink2">
        <span className="block truncate" title={does}>
          {does || 'does nothing yet'}
        </span>
        <span className="block truncate" title={where}>
          {where}
        </span>
      </span>
      <ValueBar role={role} sources={sources} states={states} />
      <Joint sources={sources} states={states} alive={(source) => isAlive(source, gear, alive)} />
      <span className="min-w-0">
        {sources.map((source) => (
          <SourceLine
            key={controlKey(source)}
            source={source}
            gear={gear}
            style={style}
            gone={!isAlive(source, gear, alive)}
            twice={twice.has(source)}
          />
        ))}
        {sources.length === 0 && (
          <span className="flex min-w-0 items-center gap-2">
            <span className="inline-block -rotate-1 border border-ink px-1.5 text-xs font-bold">open</span>
            <span className="min-w-0 text-ink2">
              {proposal && (
                <span className="block truncate leading-5" title={proposal.because}>
                  proposed:{' '}
                  <button type="button" className="font-bold text-ink underline" onClick={() => onTake(proposal)}>
                    {proposalWords(proposal)}
                  </button>
                </span>
              )}
              {missed !== null && (
                <span className="block truncate text-[13px] leading-4" title={missed}>
                  {missed}
                </span>
              )}
            </span>
            <span className="ml-auto">
              <Button look="plain" onClick={onLearn}>
                learn
              </Button>
            </span>
          </span>
        )}
      </span>
    </div>
  );
}

const proposalWords = ({ control, source }: Proposal): string =>
  `${source.source.kind === 'computerKey' ? '' : source.source.port} ${control.name}`.trim();

const isAlive = (source: RoleSource, gear: GearList, alive: (device: string) => boolean): boolean => {
  if (source.source.kind === 'computerKey') return true;
  const { port } = source.source;
  const found = inputsOf(gear).find((candidate) => candidate.alias === port);
  return found !== undefined && found.on && alive(found.device);
};

/** The value that a role moves, to be taken hold of; of a switch whether what it turns over is on. */
function ValueBar({ role, sources, states }: Pick<Props, 'role' | 'sources' | 'states'>) {
  const state =
    sources.map((source) => states.get(controlKey(source))).find((candidate) => candidate !== undefined) ??
    states.get(`role ${role.role}`);
  if (role.isValue !== true) return <SwitchNow state={state} />;
  if (valueOf(state) === null)
    return (
      <span className="text-center text-ink2" title="no value here">
        ·
      </span>
    );
  return <RoleFader role={role.role} control={state} className="h-9" />;
}

/** Whether what a switch turns over is on now. */
function SwitchNow({ state }: { state: ControlState | undefined }) {
  const turns = state?.does.filter(({ on }) => on !== null) ?? [];
  if (turns.length === 0) return <span />;
  return turns.some(({ on }) => on) ? (
    <b className="justify-self-center bg-ink px-2 text-[13px] text-ground">on</b>
  ) : (
    <span className="justify-self-center text-[13px] text-ink2">off</span>
  );
}

function Joint({
  sources,
  states,
  alive,
}: {
  sources: readonly RoleSource[];
  states: Props['states'];
  alive: (source: RoleSource) => boolean;
}) {
  const joined = sources.some(alive);
  const moves = sources.some((source) => states.get(controlKey(source))?.isMoving ?? false);
  return (
    <span
      aria-hidden
      className={`border-t-2 ${!joined ? 'border-dashed border-rule' : moves ? 'border-live' : 'border-ink'}`}
    />
  );
}

function SourceLine({
  source,
  gear,
  style,
  gone,
  twice,
}: {
  source: RoleSource;
  gear: GearList;
  style: NameStyle;
  gone: boolean;
  twice: boolean;
}) {
  const control = controlOf(gear, source.source);
  const key = source.source.kind === 'computerKey' ? SHORTCUT_OF[source.source.code] : undefined;
  return (
    <span className="flex min-w-0 items-baseline gap-2">
      <span className="named shrink-0 text-lg leading-6">
        {source.source.kind === 'computerKey' ? 'computer' : source.source.port}
      </span>
      <span className="min-w-0 truncate text-ink2">
        {control ? `${control.name} · ` : ''}
        {sourceInWords(source.source, style)}
        {source.reversed ? ', reversed' : ''}
        {source.passOn ? ', also passed on' : ''}
      </span>
      {gone && <Stamp>no port</Stamp>}
      {twice && <Stamp>twice</Stamp>}
      {key && <span className="shrink-0 text-xs text-ink2">wins over the page’s “{key}”</span>}
    </span>
  );
}
