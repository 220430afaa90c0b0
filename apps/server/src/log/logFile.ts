import { closeSync, fstatSync, openSync, renameSync, writeSync } from 'node:fs';

export interface LogFileOptions {
  /** A file is put aside when it has grown larger than this. */
  readonly mostBytes: number;
  /** How many older files are kept. */
  readonly olderFiles: number;
}

/**
 * A log of lines that is put aside by size while it is written. It never fails: a line that cannot be written, because the
 * disk is full or the file gone, is counted, and the count is told with the first line that can be.
 */
export class LogFile {
  private descriptor: number | null = null;
  private bytes = 0;
  private lost = 0;

  constructor(
    private readonly file: string,
    private readonly options: LogFileOptions,
  ) {}

  write(line: string): void {
    try {
      this.append(this.lost > 0 ? `${JSON.stringify({ level: 40, lostLines: this.lost })}\n${line}` : line);
      this.lost = 0;
    } catch {
      this.lost++;
      this.close();
    }
  }

  close(): void {
    if (this.descriptor === null) return;
    try {
      closeSync(this.descriptor);
    } catch {
      // It was not open any more.
    }
    this.descriptor = null;
  }

  private append(text: string): void {
    if (this.bytes > this.options.mostBytes) this.putAside();
    this.descriptor ??= this.opened();
    const bytes = Buffer.from(text);
    for (let at = 0; at < bytes.length;) at += writeSync(this.descriptor, bytes, at);
    this.bytes += bytes.length;
  }

  private opened(): number {
    const descriptor = openSync(this.file, 'a');
    this.bytes = fstatSync(descriptor).size;
    return descriptor;
  }

  private putAside(): void {
    this.close();
    for (let age = this.options.olderFiles; age > 0; age--) {
      try {
        renameSync(age === 1 ? this.file : `${this.file}.${age - 1}`, `${this.file}.${age}`);
      } catch {
        // There is none of this age yet.
      }
    }
    this.bytes = 0;
  }
}
