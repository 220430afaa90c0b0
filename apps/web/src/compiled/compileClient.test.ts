import { expect, test } from '@jest/globals';
import {
  applyEdit,
  compileAfter,
  compilePiece,
  expectValue,
  noteNames,
  readPiece,
  sayNotesIn,
  type Piece,
} from '@anchorbeat/core';
import { CompileDesk, type Compilers } from './compileAnswer.ts';
import { CompileClient, type CompileWorker } from './compileInWorker.ts';

function pieceOf(...meters: string[]): Piece {
  const bars = meters.map((meter) => ({ meter }));
  const reading = readPiece({ format: 'anchorbeat-piece', version: 1, title: 'T', bars });
  if (!reading.ok) throw new Error('the test piece does not read');
  return reading.piece;
}

const piece = pieceOf('4/4', '7/8', '3/4');
const edited = expectValue(
  applyEdit(piece, { kind: 'setMeter', from: 1, count: 1, meter: pieceOf('5/8').bars[0]!.meter }),
).piece;

/** A client with workers on this thread that compile as they are told to; `workers` are those that were started. */
function clientWith(compilers: Partial<Compilers>) {
  const workers: CompileWorker[] = [];
  const whole = compilers.whole ?? ((each: Piece) => compilePiece(each));
  const client = new CompileClient(() => {
    const desk = new CompileDesk({ whole, after: compilers.after ?? compileAfter }, () => 0);
    const worker: CompileWorker = {
      onmessage: null,
      onerror: null,
      postMessage: (request) => queueMicrotask(() => worker.onmessage?.({ data: desk.answer(request) })),
    };
    workers.push(worker);
    return worker;
  });
  return { client, workers };
}

const fails = () => {
  throw new RangeError('bar 2 has no pulse');
};

test('where the quick way throws the piece is compiled anew, to the same result', async () => {
  const { client } = clientWith({ after: fails });
  await client.compile(piece);
  expect(await client.compile(edited)).toEqual(compilePiece(edited));
});

test('what cannot be worked out is told with its reason, and the next piece is worked out again', async () => {
  let isBroken = true;
  const { client } = clientWith({ whole: (each) => (isBroken ? fails() : compilePiece(each)) });
  await expect(client.compile(piece)).rejects.toThrow('bar 2 has no pulse');
  isBroken = false;
  expect(await client.compile(edited)).toEqual(compilePiece(edited));
  expect(await client.compile(piece)).toEqual(compilePiece(piece));
});

test('in other note names the same piece is worked out anew, and whole: what was found is said in them', async () => {
  const said: string[] = [];
  const { client } = clientWith({
    whole: (each) => {
      said.push(`whole in ${noteNames()}`);
      return compilePiece(each);
    },
    after: (before, each) => {
      said.push(`changed in ${noteNames()}`);
      return compileAfter(before, each);
    },
  });
  await client.compile(piece);
  await client.compile(edited);
  try {
    sayNotesIn('crotchet');
    await client.compile(edited);
    await client.compile(edited);
  } finally {
    sayNotesIn('quarter');
  }
  expect(said).toEqual(['whole in quarter', 'changed in quarter', 'whole in crotchet']);
});

test('a worker that forgot the last piece asks for the whole', async () => {
  let calls = 0;
  const { client } = clientWith({
    whole: (each) => (++calls === 2 ? fails() : compilePiece(each)),
    after: fails,
  });
  const [first, second] = [client.compile(piece), client.compile(edited)];
  await first;
  await expect(second).rejects.toThrow();
  const third = expectValue(applyEdit(edited, { kind: 'deleteBars', from: 0, count: 1 })).piece;
  expect(await client.compile(third)).toEqual(compilePiece(third));
});

test('a worker that dies takes nobody with it: who waited is told, and another is started', async () => {
  const { client, workers } = clientWith({});
  const lost = client.compile(piece);
  workers[0]!.onerror?.({ message: 'out of memory' });
  await expect(lost).rejects.toThrow('out of memory');
  expect(await client.compile(edited)).toEqual(compilePiece(edited));
  expect(workers).toHaveLength(2);
});
