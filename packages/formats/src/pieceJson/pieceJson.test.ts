import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { describe, expect, test } from '@jest/globals';
import { formatOfFileMaybe } from '../formats.ts';
import { pieceJson } from './pieceJson.ts';

const DEMO = fileURLToPath(new URL('../../../../demo', import.meta.url));
const demoFiles = readdirSync(DEMO).filter((name) => name.endsWith('.anchorbeat.json'));
const bytes = (text: string) => new TextEncoder().encode(text);

describe('piece files', () => {
  test.each(demoFiles)('the demo’s %s reads, and reads back the same after writing', (name) => {
    const reading = pieceJson.read(readFileSync(join(DEMO, name)));
    if (!reading.ok) throw new Error(JSON.stringify(reading.problems));
    expect(pieceJson.read(pieceJson.write(reading.piece))).toEqual(reading);
  });

  test.each([
    ['nothing', bytes(''), 'does not read as JSON'],
    ['half a file', bytes('{"format": "anchorbeat-p'), 'does not read as JSON'],
    ['bytes that are not UTF-8', Uint8Array.of(0x7b, 0xff, 0xfe, 0x7d), 'not text in UTF-8'],
    ['brackets in brackets', bytes('['.repeat(2_000_000)), 'nested deeper than'],
    [
      'a piece with something deep in it',
      bytes(`{"format":"anchorbeat-piece","bars":${'['.repeat(70)}${']'.repeat(70)}}`),
      'nested deeper',
    ],
    ['another program’s JSON', bytes('{"hello": 1}'), 'not a field of a piece'],
    ['9 MB', new Uint8Array(9 * 1024 * 1024), 'larger than 8 MB'],
  ])('%s is refused with its reason', (_name, content, reason) => {
    const reading = pieceJson.read(content);
    expect(reading.ok ? '' : reading.problems[0]?.message).toContain(reason);
  });

  test('a file is known by its ending', () => {
    expect(formatOfFileMaybe('Tar.ANCHORBEAT.JSON')?.id).toBe('piece-json');
    expect(formatOfFileMaybe('tar.exe')).toBeNull();
  });
});
