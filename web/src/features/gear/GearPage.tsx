import { actionInWords, type RoleInUse } from '@rackle/core/controls';
import { useState } from 'react';
import { GearList, gearFromPorts, withoutGearList, type GearListId, type Setlist, type Song } from '@rackle/core/show';
import { useApp, useHost, useEdit, useGear, usePortsHere, useSetlist } from '../../state/hooks';
import { newId } from '../../state/ids';
import { Button } from '../../ui/Button';
import { Choice } from '../../ui/Choice';
import { EditableText } from '../../ui/EditableText';
import { useNewRow } from '../../ui/newRow';
import { Question } from '../../ui/Question';
import { effectsOfSetlist, namesIn } from './actionNames';
import { ClickPanel } from './ClickPanel';
import { LearnBar } from './LearnBar';
import { LearnedNote } from './LearnedNote';
import { PortList } from './PortList';
import { RoleDetail } from './RoleDetail';
import { RunningSide } from './RunningSide';
import { RoleRow } from './RoleRow';
import { SoundPanel } from './SoundPanel';
import { useRoles } from './useRoles';

const MIDI_WORDS = {
  unasked: 'The machine’s own MIDI ports have not been asked for yet. The bench works without them.',
  asking: 'Asking the browser for its MIDI ports …',
  on: 'The machine’s MIDI ports are connected. To reach another program on this computer, make a virtual port in the system’s MIDI settings: it is listed here like any other.',
  refused:
    'The browser has refused MIDI. Allow it for this page in the browser’s site settings, then try again. The bench works meanwhile.',
  absent:
    'This browser or machine has no MIDI. Use a browser with Web MIDI, and check that the machine has a MIDI system. The bench works meanwhile.',
} as const;

/**
 * Tonight's gear list: what the player uses on the left, what plays it on the right; beside it the ports and where the
 * sound leaves.
 */
export function GearPage() {
  const gear = useGear();
  const setlist = useSetlist();
  const awaitsPorts = usePortsHere() === null;
  if (!gear) return <NoGear />;
  return (
    <div className="flex min-h-full max-[899px]:flex-col">
      <div className="min-w-0 flex-1 px-4 pb-6">
        <Head gear={gear} setlist={setlist} />
        {setlist ? (
          <Roles gear={gear} setlist={setlist} />
        ) : (
          <p className="py-6 text-lg">No setlist yet, so nothing to play. Start one on the Setlist page.</p>
        )}
      </div>
      <aside className="w-[310px] shrink-0 border-l border-ink px-4 py-3 max-[899px]:w-full max-[899px]:border-l-0 max-[899px]:border-t">
        {/* What is plugged in, and not in the list, stands among it: nothing moves when it is known. */}
        {awaitsPorts ? (
          <p className="text-ink2">The running side is starting …</p>
        ) : (
          <>
            <PortList
              gear={gear}
              style={{ programsFrom: setlist?.programsFrom ?? 1, middleC: setlist?.middleC ?? 'C4' }}
            />
            <SoundPanel gear={gear} />
            <ClickPanel gear={gear} />
          </>
        )}
      </aside>
    </div>
  );
}

function NoGear() {
  const edit = useEdit();
  const setlist = useSetlist();
  const ports = usePortsHere();
  return (
    <div className="px-4 py-4">
      <h1 className="named text-4xl">Gear</h1>
      <p className="mt-4 text-lg">No gear list yet: nothing that comes in is listened to.</p>
      <p className="mt-3 flex gap-2">
        <Button
          look="filled"
          disabled={ports === null}
          onClick={() => {
            const made = gearFromPorts(newId<GearListId>('gear'), 'What is here', ports ?? []);
            edit({
              label: 'make a gear list',
              gearLists: [made],
              setlists: setlist ? [{ ...setlist, gearListId: made.id }] : [],
            });
          }}
        >
          Make one from what is here
        </Button>
        <MidiButton />
      </p>
    </div>
  );
}

function MidiButton() {
  const host = useHost();
  const midi = useApp(({ live }) => live.sound.midi);
  return (
    <Button disabled={midi === 'asking' || midi === 'on'} onClick={() => host.post({ type: 'connectMidi' })}>
      Connect MIDI ports
    </Button>
  );
}

function Head({ gear, setlist }: { gear: GearList; setlist: Setlist | null }) {
  const edit = useEdit();
  const host = useHost();
  const lists = useApp(({ show }) => show.working.gearLists);
  const midi = useApp(({ live }) => live.sound.midi);
  const use = (id: string): void => {
    if (setlist) edit({ label: 'change the gear list', setlists: [{ ...setlist, gearListId: id as GearListId }] });
  };
  const copy = (): void => {
    const made = GearList.parse({ ...gear, id: newId<GearListId>('gear'), name: `${gear.name} 2` });
    edit({
      label: 'copy the gear list',
      gearLists: [made],
      setlists: setlist ? [{ ...setlist, gearListId: made.id }] : [],
    });
  };
  return (
    <>
      <div className="flex items-end gap-3 pt-3 flex-wrap gap-y-1">
        <EditableText
          heading
          label="name of the gear list"
          value={gear.name}
          className="named text-4xl"
          onChange={(name) =>
            edit({ label: 'rename the gear list', gearLists: [{ ...gear, name: name as GearList['name'] }] })
          }
        />
        <span className="flex items-center gap-1 whitespace-nowrap pb-1 text-ink2">
          tonight’s gear list is{' '}
          <Choice
            label="gear list"
            className="max-w-40 truncate text-ink"
            value={gear.id}
            items={Object.values(lists).map((list) => ({ value: list.id, label: list.name }))}
            onChange={use}
          />
          <Button look="plain" onClick={copy}>
            copy it
          </Button>
          <DeleteGear gear={gear} />
        </span>
        <span className="ml-auto flex gap-2">
          <Button
            onClick={() => host.post({ type: 'perform', action: 'resend' })}
            title="Resend everything to all gear: addresses, controllers and pedals of the present patch"
          >
            Resend all
          </Button>
          <MidiButton />
        </span>
      </div>
      <p
        className={`mt-1 border-b border-ink pb-2 text-[13px] ${midi === 'refused' || midi === 'absent' ? 'font-bold' : 'text-ink2'}`}
        role="status"
      >
        {MIDI_WORDS[midi]}
      </p>
      <RunningSide />
    </>
  );
}

/** Deletes the gear list; setlists that play by it go by another one. Undo brings it back, there too. */
function DeleteGear({ gear }: { gear: GearList }) {
  const edit = useEdit();
  const lists = useApp(({ show }) => show.working.gearLists);
  const setlists = Object.values(useApp(({ show }) => show.working.setlists));
  const [asking, setAsking] = useState(false);
  const instead = Object.values(lists).find(({ id }) => id !== gear.id) ?? null;
  if (!instead) return null;
  const users = setlists.filter(({ gearListId }) => gearListId === gear.id).map(({ name }) => name);
  const remove = (): void => {
    setAsking(false);
    edit({ label: `delete ${gear.name}`, ...withoutGearList(setlists, gear.id, instead.id) });
  };
  return (
    <>
      <Button look="plain" onClick={() => setAsking(true)}>
        delete it
      </Button>
      {asking && (
        <Question
          title={`Delete ${gear.name}?`}
          answers={[['Delete it', remove]]}
          leave="leave it"
          onLeave={() => setAsking(false)}
        >
          <p>
            {users.length > 0 ? (
              <>
                It is the gear list of <b>{users.join(', ')}</b>, which will play by {instead.name} instead.
              </>
            ) : (
              'No setlist plays by it.'
            )}{' '}
            No song changes. Undo brings it back.
          </p>
        </Question>
      )}
    </>
  );
}

type RolesOf = ReturnType<typeof useRoles>;

function Roles({ gear, setlist }: { gear: GearList; setlist: Setlist }) {
  const of = useRoles(gear, setlist);
  const { songs, roles, left, proposals, twice, states, style, alive, here, learn, last, startLearning } = of;
  const { open, setOpen, take, addRole } = of;
  return (
    <section aria-label="roles">
      <LearnBar roles={roles} />
      <RolesHead {...of} />
      <div className="grid grid-cols-[minmax(120px,190px)_minmax(120px,1fr)_96px_64px_minmax(240px,1.3fr)] max-[899px]:grid-cols-[minmax(0,150px)_minmax(0,1fr)_64px_16px_minmax(0,1.3fr)] gap-x-3 text-[13px] font-bold text-ink2">
        <span>what you use</span>
        <span>what it does</span>
        <span>value</span>
        <span />
        <span>what plays it</span>
      </div>
      {roles.map((role) => {
        const sources = gear.roles.filter((source) => source.role === role.role);
        const missing = left.find((entry) => entry.role.role === role.role);
        const isOpen = open === role.role;
        return (
          <div key={role.role}>
            <RoleRow
              role={role}
              {...doesWords(role, setlist, songs)}
              gear={gear}
              sources={sources}
              states={states}
              twice={twice}
              alive={alive}
              style={style}
              open={isOpen}
              waits={learn?.waitsFor === role.role}
              proposal={
                sources.length === 0 ? (proposals.find((proposal) => proposal.role === role.role) ?? null) : null
              }
              missed={missing ? missedWords(missing.missedIn, songs) : null}
              onOpen={() => setOpen(isOpen ? null : role.role)}
              onLearn={() => startLearning([role.role])}
              onTake={(proposal) => take([proposal])}
            />
            {last?.role === role.role && <LearnedNote gear={gear} role={role.role} learned={last.learned} />}
            {isOpen && (
              <>
                <OpenRole role={role} {...of} />
                <RoleDetail
                  role={role}
                  gear={gear}
                  sources={sources}
                  states={states}
                  style={style}
                  here={here}
                  onLearn={() => startLearning([role.role])}
                />
              </>
            )}
          </div>
        );
      })}
      {roles.length === 0 && (
        <p className="border-t border-rule py-4 text-lg">
          No roles yet. A role is what you use in your songs, in your own words: “Swell”, “Next patch”.{' '}
          <Button onClick={addRole}>Add the first one</Button>
        </p>
      )}
    </section>
  );
}

/** How many roles there are, and what can be done with all of them. */
function RolesHead({ roles, left, proposals, startLearning, take, addRole }: RolesOf) {
  return (
    <div className="flex items-center gap-3 py-2 text-[13px] text-ink2">
      <span>
        {roles.length} role{roles.length === 1 ? '' : 's'}
        {left.length > 0 ? (
          <>
            , <b className="text-ink">{left.length} open</b>
          </>
        ) : (
          ', none open'
        )}
      </span>
      {left.length > 0 && (
        <Button onClick={() => startLearning(left.map(({ role }) => role.role))}>Learn open roles</Button>
      )}
      {proposals.length > 0 && (
        <Button onClick={() => take(proposals)}>
          Take {proposals.length === 1 ? 'the proposal' : `all ${proposals.length} proposals`}
        </Button>
      )}
      <Button look="plain" onClick={addRole}>
        add a role
      </Button>
    </div>
  );
}

/** A role that is looked into: its name, and taking it away. */
function OpenRole({ role, roles, rename, remove }: RolesOf & { role: RoleInUse }) {
  const ref = useNewRow(`role ${role.role}`);
  return (
    <div ref={ref} className="flex items-center gap-2 bg-ground2/50 px-3 pt-2 text-[13px]">
      <EditableText
        label="name of the role"
        value={role.role}
        className="named text-lg"
        width="12rem"
        check={(text) =>
          roles.some((other) => other.role === text.trim() && other !== role)
            ? 'another role has this name'
            : text.length > 120
              ? 'at most 120 characters'
              : null
        }
        onChange={(name) => rename(role, name)}
      />
      <Button look="plain" onClick={() => remove(role)}>
        remove the role
        {role.uses.length > 0 ? ` and its ${role.uses.length} use${role.uses.length === 1 ? '' : 's'}` : ''}
      </Button>
    </div>
  );
}

function doesWords(
  role: RoleInUse,
  setlist: Setlist,
  songs: Readonly<Record<string, Song>>,
): { does: string; where: string } {
  const [first] = role.uses;
  if (!first) return { does: '', where: '' };
  const whole = role.uses.find((use) => use.songId === null);
  const isHere = role.uses.some((use) => use.scope === 'setlist');
  const words = [
    ...new Set(
      role.uses.map((use) =>
        actionInWords(
          use.binding.action,
          namesIn(use.songId === null ? setlist.layers : (songs[use.songId]?.layers ?? []), effectsOfSetlist(setlist)),
        ),
      ),
    ),
  ];
  const inSongs = new Set(role.uses.flatMap((use) => use.songId ?? [])).size;
  return {
    does: words.join(' · '),
    where: [
      whole ? (isHere ? 'whole setlist' : 'every setlist') : null,
      inSongs > 0
        ? `${whole ? 'otherwise in ' : ''}${inSongs === 1 ? (songs[role.uses.find((use) => use.songId)!.songId!]?.name ?? 'a song') : `${inSongs} songs`}`
        : null,
    ]
      .filter(Boolean)
      .join(', '),
  };
}

function missedWords(
  missedIn: { songId: string; patchIds: string[] | null }[] | null,
  songs: Readonly<Record<string, Song>>,
): string {
  if (missedIn === null) return 'missed in the whole setlist';
  if (missedIn.length === 0) return 'nothing uses it yet';
  return `missed in ${missedIn.map(({ songId, patchIds }) => `${songs[songId]?.name ?? 'a song'}${patchIds ? `: ${patchIds.map((id) => songs[songId]?.patches.find((patch) => patch.id === id)?.name ?? '').join(', ')}` : ''}`).join('; ')}`;
}
