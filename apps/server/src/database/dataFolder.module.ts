import { Global, Module, type DynamicModule } from '@nestjs/common';
import { DATA_FOLDER } from './dataFolder.ts';

/** Hands the folder of all data to whoever needs it. */
@Global()
@Module({})
export class DataFolderModule {
  static with(dataFolder: string): DynamicModule {
    const provider = { provide: DATA_FOLDER, useValue: dataFolder };
    return { module: DataFolderModule, providers: [provider], exports: [provider] };
  }
}
