import { useWaits, waitWords } from '../../../state/useWaits';
import { TapeLetter, letterOf } from '../../../ui/Tape';
import { Toggle } from '../../../ui/Toggle';
import { AlsoIn } from '../../shared-layers';
import type { Signal } from './signal';

/** Whose line it is, what it waits for, mute and solo. */
export function SignalHead({ song, layer, patchId, part, balance, at, setPart, setBalance }: Signal) {
  const wait = useWaits().find(({ layerId }) => layerId === layer.id);
  return (
    <>
      <div className="flex items-center gap-2">
        <TapeLetter tape={layer.tape} letter={letterOf(song.layers.indexOf(layer))} />
        <h2 className="named min-w-0 truncate text-2xl">{layer.name}</h2>
        {wait && (
          <b role="status" className={`text-[13px] ${wait.isOver ? 'text-ink2' : 'bg-ink px-1.5 text-ground'}`}>
            {waitWords(wait)}
          </b>
        )}
        <span className="ml-auto flex text-[13px]">
          <Toggle
            on={balance.mute}
            name="mute"
            onClick={() =>
              setBalance(
                balance.mute ? 'unmute' : 'mute',
                { mute: !balance.mute },
                `mute ${at} ${String(balance.mute)}`,
              )
            }
          />
          <Toggle
            on={part.solo}
            name="solo"
            onClick={() => setPart('solo', (current) => ({ ...current, solo: !current.solo }))}
          />
        </span>
      </div>
      <AlsoIn song={song} layerId={layer.id} patchId={patchId} />
    </>
  );
}
