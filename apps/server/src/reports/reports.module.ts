import { Body, Controller, HttpCode, Logger, Module, Post } from '@nestjs/common';
import { ApiBody, ApiOperation, ApiTags } from '@nestjs/swagger';
import { ReportErrorRequest } from '@anchorbeat/contract';
import { Open } from '../accounts/access.guard.ts';

@ApiTags('reports')
@Controller('api/reports')
class ReportsController {
  private readonly logger = new Logger('Page');

  @Post()
  @Open()
  @HttpCode(204)
  @ApiOperation({ summary: 'Note an error that a page met in the log' })
  @ApiBody({ schema: { $ref: '#/components/schemas/ReportErrorRequest' } })
  note(@Body() { message, stack, where, address }: ReportErrorRequest): void {
    this.logger.warn(JSON.stringify({ message, address, where, stack }));
  }
}

@Module({ controllers: [ReportsController] })
export class ReportsModule {}
