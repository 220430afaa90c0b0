import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, expect, test } from '@jest/globals';
import { smallDiskMaybe } from '../test/smallDisk.ts';
import { LogFile } from './logFile.ts';

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'anchorbeat-log-'));
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

const linesOf = (file: string) => readFileSync(file, 'utf8').trimEnd().split('\n');

test('it is put aside by size while it is written, and so many older ones are kept', () => {
  const file = join(folder, 'a.jsonl');
  const log = new LogFile(file, { mostBytes: 100, olderFiles: 2 });
  for (let at = 0; at < 60; at++) log.write(`line ${String(at).padStart(4, '0')}\n`);
  log.close();
  const all = [`${file}.2`, `${file}.1`, file].flatMap(linesOf);
  expect(all.at(-1)).toBe('line 0059');
  expect(all).toEqual([...all].sort());
  expect(existsSync(`${file}.3`)).toBe(false);
});

test('a log that cannot be written stops nobody, and tells how much it missed once it can be', () => {
  const inside = join(folder, 'not yet there');
  const log = new LogFile(join(inside, 'a.jsonl'), { mostBytes: 1000, olderFiles: 1 });
  for (let at = 0; at < 5; at++) log.write('lost\n');
  mkdirSync(inside);
  log.write('kept\n');
  log.close();
  expect(linesOf(join(inside, 'a.jsonl'))).toEqual(['{"level":40,"lostLines":5}', 'kept']);
});

test('a full disk stops nobody either', () => {
  const disk = smallDiskMaybe(1);
  if (!disk) return;
  try {
    const file = join(disk.folder, 'a.jsonl');
    const log = new LogFile(file, { mostBytes: 1e6, olderFiles: 1 });
    log.write('before\n');
    disk.fill();
    for (let at = 0; at < 3000; at++) log.write(`${'x'.repeat(100)}\n`);
    disk.giveRoom();
    log.write('after\n');
    log.close();
    expect([linesOf(file)[0], linesOf(file).at(-1)]).toEqual(['before', 'after']);
  } finally {
    disk.remove();
  }
});
