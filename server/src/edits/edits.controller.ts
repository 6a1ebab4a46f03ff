import { Body, Controller, HttpCode, Inject, Post } from '@nestjs/common';
import { checked } from '../http/checked';
import { Problem } from '../http/problem';
import { AsideRequest, EditRequest, EditsService, type EditAnswer } from './edits.service';

/** POST /api/v1/edits: the one way in which anything is saved. */
@Controller('api/v1/edits')
export class EditsController {
  constructor(@Inject(EditsService) private readonly edits: EditsService) {}

  @Post()
  @HttpCode(200)
  save(@Body() body: unknown): Promise<EditAnswer> {
    return this.edits.save(checked(EditRequest, body)).catch(asRefusal);
  }

  @Post('aside')
  @HttpCode(200)
  setAside(@Body() body: unknown): Promise<EditAnswer> {
    return this.edits.setAside(checked(AsideRequest, body)).catch(asRefusal);
  }
}

/** An edit that cannot be made is unprocessable here, whatever forbids it: trying again as it is helps nothing. */
function asRefusal(cause: unknown): never {
  if (cause instanceof Problem && cause.code === 'in-use')
    throw new Problem('broken-reference', cause.detail, cause.path, cause.extra);
  throw cause;
}
