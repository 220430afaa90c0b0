import { Controller, Get, Injectable, Module } from '@nestjs/common';
import { ApiOkResponse, ApiOperation, ApiServiceUnavailableResponse, ApiTags } from '@nestjs/swagger';
import { HealthCheck, HealthCheckService, HealthIndicatorService, TerminusModule } from '@nestjs/terminus';
import { BackupModule } from '../backup/backup.module.ts';
import { Soundness } from '../backup/soundness.ts';
import { SerialWriter } from '../database/connection.ts';
import { DatabaseModule } from '../database/database.module.ts';
import { Open } from '../accounts/access.guard.ts';

/** A write is tried at most this often, however many ask. */
const TRIED_FOR_MS = 1000;

/** Whether the database can be written: it is, one row of it. */
@Injectable()
class WritingIndicator {
  private lastTry: { readonly at: number; readonly result: Promise<unknown> } | null = null;

  constructor(
    private readonly indicators: HealthIndicatorService,
    private readonly writer: SerialWriter,
  ) {}

  async check() {
    const indicator = this.indicators.check('database');
    try {
      await this.tried();
      return indicator.up();
    } catch (error) {
      return indicator.down({ message: (error as Error).message });
    }
  }

  private tried(): Promise<unknown> {
    const now = Date.now();
    if (this.lastTry && now - this.lastTry.at < TRIED_FOR_MS) return this.lastTry.result;
    const result = this.writer.run((manager) =>
      manager.query(
        `INSERT INTO health (id, written_at) VALUES (1, ?) ON CONFLICT (id) DO UPDATE SET written_at = excluded.written_at`,
        [new Date(now).toISOString()],
      ),
    );
    this.lastTry = { at: now, result };
    return result;
  }
}

@ApiTags('health')
@Controller('api/health')
class HealthController {
  constructor(
    private readonly health: HealthCheckService,
    private readonly writing: WritingIndicator,
    private readonly soundness: Soundness,
    private readonly indicators: HealthIndicatorService,
  ) {}

  @Get()
  @Open()
  // It would load what describes it a second time, beside the bundle.
  @HealthCheck({ noCache: true, swaggerDocumentation: false })
  @ApiOkResponse({ description: 'It answers, can write, and was whole' })
  @ApiServiceUnavailableResponse({ description: 'One of them is not so: "error" names it' })
  @ApiOperation({
    summary: 'Whether the server answers, its database can be written, and was whole when it was last copied',
  })
  check() {
    return this.health.check([() => this.writing.check(), () => this.sound()]);
  }

  private sound() {
    const indicator = this.indicators.check('soundness');
    const { damage } = this.soundness;
    return damage === null ? indicator.up() : indicator.down({ message: damage });
  }
}

@Module({
  imports: [TerminusModule, DatabaseModule, BackupModule],
  controllers: [HealthController],
  providers: [WritingIndicator],
})
export class HealthModule {}
