import { Controller, Get, Inject, Param } from '@nestjs/common';
import type { PastShow } from '../history/states.service';
import { BackupsService } from './backups.service';
import type { BackupReason } from './backups';

/** A backup as a list shows it. */
export interface ListedBackup {
  name: string;
  /** ISO 8601. */
  madeAt: string;
  reason: BackupReason;
  bytes: number;
}

/** The copies of the database: what there is, and what is in each. */
@Controller('api/v1/backups')
export class BackupsController {
  constructor(@Inject(BackupsService) private readonly backups: BackupsService) {}

  @Get()
  all(): ListedBackup[] {
    return this.backups.all().map(({ madeAt, ...rest }) => ({ ...rest, madeAt: madeAt.toISOString() }));
  }

  @Get(':name')
  one(@Param('name') name: string): Promise<PastShow> {
    return this.backups.show(name);
  }
}
