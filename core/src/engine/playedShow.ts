import {
  PLAYED_KINDS,
  playedSetlist,
  sameBody,
  withSound,
  type Audition,
  type EverySetlist,
  type GearList,
  type Instrument,
  type Kinds,
  type PlayedKind,
  type Setlist,
  type ShowNews,
  type Song,
} from '../show';

/** The show as it is played: one setlist, one gear list, and what is being tried in it. */
export class PlayedShow {
  private readonly bodies: { [K in PlayedKind]: Map<string, Kinds[K]> } = {
    songs: new Map(),
    instruments: new Map(),
    setlists: new Map(),
    gearLists: new Map(),
    everySetlist: new Map(),
  };
  private played: { of: Setlist; every: EverySetlist; setlist: Setlist } | null = null;
  private setlistId: string | null = null;
  private tried: { audition: Audition; of: Song; song: Song } | null = null;
  private instrumentList: Instrument[] | null = null;

  /** Everything anew. */
  start(show: { [K in PlayedKind]: readonly Kinds[K][] }, setlistId: string | null): void {
    for (const kind of PLAYED_KINDS) {
      const byId = this.bodies[kind] as Map<string, Kinds[PlayedKind]>;
      byId.clear();
      for (const body of show[kind]) byId.set(body.id, body);
    }
    this.setlistId = setlistId;
    this.tried = null;
    this.instrumentList = null;
  }

  choose(setlistId: string | null): void {
    this.setlistId = setlistId;
  }

  /** Takes what an edit has changed. What it is given is kept, and never written to. */
  take({ put: come, gone }: ShowNews): void {
    for (const kind of PLAYED_KINDS) {
      const byId = this.bodies[kind] as Map<string, object>;
      for (const [id, fields] of Object.entries(come[kind] ?? {}))
        byId.set(id, { ...byId.get(id), ...(fields as object) });
    }
    for (const { kind, id } of gone) this.bodies[kind].delete(id);
    if (come.instruments !== undefined || gone.some(({ kind }) => kind === 'instruments')) this.instrumentList = null;
  }

  /** Tries a sound in the place of a layer's own, or (null) ends that. */
  audition(audition: Audition | null): void {
    const song = audition && this.bodies.songs.get(audition.songId);
    this.tried =
      audition && song ? { audition, of: song, song: withSound(song, audition.layerId, audition.sound) } : null;
  }

  /** With what is done in every setlist; the same object while neither changes. */
  get setlist(): Setlist | null {
    const of = this.setlistId === null ? undefined : this.bodies.setlists.get(this.setlistId);
    if (of === undefined) return null;
    const [every] = this.bodies.everySetlist.values();
    if (every === undefined) return of;
    if (this.played?.of !== of || this.played.every !== every) {
      const { played } = this;
      const setlist = playedSetlist(of, every);
      // The lists keep their identity too, so that nothing that goes by them is made anew.
      if (played !== null && sameBody(played.setlist.bindings, setlist.bindings))
        this.played = { of, every, setlist: { ...setlist, bindings: played.setlist.bindings } };
      else this.played = { of, every, setlist };
    }
    return this.played!.setlist;
  }

  /** The setlist's own gear list, or the first there is. */
  get gear(): GearList | null {
    const { gearLists } = this.bodies;
    const own = this.setlist?.gearListId;
    return (own ? gearLists.get(own) : undefined) ?? [...gearLists.values()][0] ?? null;
  }

  /** With what is being tried. */
  song(id: string): Song | undefined {
    const song = this.bodies.songs.get(id);
    return song !== undefined && this.tried?.audition.songId === id ? this.triedIn(song) : song;
  }

  instrument(id: string): Instrument | undefined {
    return this.bodies.instruments.get(id);
  }

  get songs(): Song[] {
    const songs = [...this.bodies.songs.values()];
    if (this.tried === null) return songs;
    return songs.map((song) => this.song(song.id)!);
  }

  get instruments(): readonly Instrument[] {
    return (this.instrumentList ??= [...this.bodies.instruments.values()]);
  }

  /** An edit made meanwhile stands; what is tried lies over it. */
  private triedIn(song: Song): Song {
    const tried = this.tried!;
    if (tried.of !== song)
      this.tried = {
        audition: tried.audition,
        of: song,
        song: withSound(song, tried.audition.layerId, tried.audition.sound),
      };
    return this.tried!.song;
  }
}
