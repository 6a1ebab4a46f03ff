import { dirname, join } from 'node:path';
import { Inject, Injectable, Logger, type OnApplicationBootstrap, type OnApplicationShutdown } from '@nestjs/common';
import type Sqlite from 'better-sqlite3';
import { DataSource } from 'typeorm';
import { BodiesService } from '../aggregates/bodies.service';
import { pastShow, type PastShow } from '../history/states.service';
import { Problem } from '../http/problem';
import { BACKUP_FOLDER, backUp, listBackups, rotate, type Backup } from './backups';
import { readBackup } from './readBackup';

const LOOK_EVERY_MS = 3_600_000;
const HALF_A_DAY_MS = 12 * 3_600_000;

/** Backups make themselves: at the start when the newest is half a day old, and daily while Rackle runs. */
@Injectable()
export class BackupsService implements OnApplicationBootstrap, OnApplicationShutdown {
  private readonly log = new Logger('backups');
  private timer: NodeJS.Timeout | null = null;
  private running: Promise<unknown> = Promise.resolve();

  constructor(
    @Inject(DataSource) private readonly dataSource: DataSource,
    @Inject(BodiesService) private readonly bodies: BodiesService,
  ) {}

  onApplicationBootstrap(): void {
    this.running = this.lookQuietly();
    this.timer = setInterval(() => (this.running = this.lookQuietly()), LOOK_EVERY_MS);
    this.timer.unref();
  }

  async onApplicationShutdown(): Promise<void> {
    if (this.timer) clearInterval(this.timer);
    await this.running;
  }

  private get folder(): string {
    return join(dirname(this.dataSource.options.database as string), BACKUP_FOLDER);
  }

  /** Newest first. */
  all(): Backup[] {
    return listBackups(this.folder);
  }

  /** The show in a backup. @throws Problem `not-found`, `unreadable` */
  async show(name: string): Promise<PastShow> {
    const backup = this.all().find((one) => one.name === name);
    if (!backup) throw new Problem('not-found', `There is no backup ${name.slice(0, 80)}.`);
    return pastShow(name, backup.madeAt.toISOString(), await readBackup(join(this.folder, name)));
  }

  /** @returns the name of the backup that was made, null: the newest is new enough. */
  async look(now: Date): Promise<string | null> {
    const { folder } = this;
    const [newest] = listBackups(folder).filter(({ reason }) => reason === 'daily');
    if (newest && now.getTime() - newest.madeAt.getTime() < HALF_A_DAY_MS) return null;
    const { databaseConnection } = this.dataSource.driver as unknown as { databaseConnection: Sqlite.Database };
    const name = await backUp(databaseConnection, folder, now, 'daily');
    // While something cannot be read, an old backup may be the only one that has it whole.
    if (this.bodies.unreadable.length === 0) rotate(folder, now);
    return name;
  }

  private async lookQuietly(): Promise<void> {
    await this.look(new Date()).catch((cause: unknown) => this.log.warn(`no backup was made: ${String(cause)}`));
  }
}
