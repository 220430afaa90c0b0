import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { ENTITIES } from './dataSource.ts';
import { SerialWriter } from './connection.ts';

/** The tables and the one writer that all modules share. */
@Module({
  imports: [TypeOrmModule.forFeature(ENTITIES)],
  providers: [SerialWriter],
  exports: [SerialWriter, TypeOrmModule],
})
export class DatabaseModule {}
