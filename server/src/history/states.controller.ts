import { Body, Controller, Delete, Get, HttpCode, Inject, Param, Put } from '@nestjs/common';
import { EditId } from '@rackle/core/show';
import { z } from 'zod';
import { checked } from '../http/checked';
import { StatesService, type NamedState, type PastShow } from './states.service';

const Named = z.strictObject({ name: z.string().trim().min(1).max(200) });

/** States of the whole show under names. */
@Controller('api/v1/states')
export class StatesController {
  constructor(@Inject(StatesService) private readonly states: StatesService) {}

  @Get()
  all(): Promise<NamedState[]> {
    return this.states.all();
  }

  @Get(':id')
  one(@Param('id') id: string): Promise<PastShow> {
    return this.states.one(id);
  }

  @Put(':id')
  @HttpCode(204)
  name(@Param('id') id: string, @Body() body: unknown): Promise<void> {
    return this.states.name(checked(EditId, id), checked(Named, body).name);
  }

  @Delete(':id')
  @HttpCode(204)
  delete(@Param('id') id: string): Promise<void> {
    return this.states.delete(id);
  }
}
