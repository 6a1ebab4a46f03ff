import { Body, Controller, HttpCode, Inject, Post } from '@nestjs/common';
import { Problem } from '../http/problem';
import { AsideRequest, EditRequest, EditsService, type EditAnswer } from './edits.service';

/** POST /api/v1/edits: the one way in which anything is saved. */
@Controller('api/v1/edits')
export class EditsController {
  constructor(@Inject(EditsService) private readonly edits: EditsService) {}

  @Post()
  @HttpCode(200)
  save(@Body() body: unknown): Promise<EditAnswer> {
    return this.edits.save(read(EditRequest, body)).catch(asRefusal);
  }

  @Post('aside')
  @HttpCode(200)
  setAside(@Body() body: unknown): Promise<EditAnswer> {
    return this.edits.setAside(read(AsideRequest, body)).catch(asRefusal);
  }
}

/** An edit that cannot be made is unprocessable here, whatever forbids it: trying again as it is helps nothing. */
function asRefusal(cause: unknown): never {
  if (cause instanceof Problem && cause.code === 'in-use')
    throw new Problem('broken-reference', cause.detail, cause.path, cause.extra);
  throw cause;
}

function read<T>(
  schema: {
    safeParse(
      input: unknown,
    ): { success: true; data: T } | { success: false; error: { issues: { path: PropertyKey[]; message: string }[] } };
  },
  input: unknown,
): T {
  const parsed = schema.safeParse(input);
  if (parsed.success) return parsed.data;
  const [issue] = parsed.error.issues;
  const path = issue.path.map((step) => (typeof step === 'number' ? step : String(step)));
  throw new Problem(
    'invalid',
    `${path.join(' → ') || 'the edit'}: ${issue.message.slice(0, 200)}. Nothing was changed.`,
    path,
  );
}
