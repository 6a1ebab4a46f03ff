import { Command } from 'cmdk';
import { useState } from 'react';
import { useSongs } from '../../state/hooks';
import { Sheet } from '../../ui/Sheet';

/** A song that is there already, or a new one under the typed name. */
export function AddSong({
  open,
  onClose,
  onNew,
  onSong,
}: {
  open: boolean;
  onClose: () => void;
  onNew: (name: string) => void;
  onSong: (songId: string) => void;
}) {
  const songs = useSongs();
  const [name, setName] = useState('');
  const item =
    'flex min-h-10 cursor-pointer items-center gap-3 px-2 data-[selected=true]:bg-ink data-[selected=true]:text-ground';
  return (
    <Sheet
      open={open}
      title="Add a song"
      about="Type a name: choose a song you have, or start a new one."
      onClose={onClose}
    >
      <Command label="songs">
        <Command.Input
          value={name}
          onValueChange={setName}
          placeholder="name of the song"
          maxLength={120}
          className="named w-full border-b border-ink bg-transparent py-2 text-2xl focus:outline-none"
        />
        <Command.List className="mt-2 max-h-72 overflow-y-auto">
          {name.trim() !== '' && (
            <Command.Item
              value={`new ${name}`}
              className={item}
              onSelect={() => {
                onNew(name.trim());
                setName('');
              }}
            >
              Start a new song “<span className="named">{name.trim()}</span>”
            </Command.Item>
          )}
          {Object.values(songs).map((song) => (
            <Command.Item
              key={song.id}
              value={`${song.name} ${song.id}`}
              className={item}
              onSelect={() => {
                onSong(song.id);
                setName('');
              }}
            >
              <span className="named text-xl">{song.name}</span>
              <span className="ml-auto text-[13px] opacity-70">{song.patches.length} patches</span>
            </Command.Item>
          ))}
        </Command.List>
      </Command>
    </Sheet>
  );
}
