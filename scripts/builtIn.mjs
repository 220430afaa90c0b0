/**
 * What the language itself brings and no test replaces. Jest runs everything in a context whose globals are asked for by a
 * call each time, so that a loop over `Math.floor` takes a hundred times as long there as in the app; sources and packages
 * are handed these once instead.
 */
export const BUILT_IN = [
  'Array',
  'ArrayBuffer',
  'BigInt',
  'Boolean',
  'DataView',
  'Error',
  'Float32Array',
  'Float64Array',
  'Int16Array',
  'Int32Array',
  'Int8Array',
  'JSON',
  'Map',
  'Math',
  'Number',
  'Object',
  'Promise',
  'RangeError',
  'Reflect',
  'RegExp',
  'Set',
  'String',
  'Symbol',
  'TypeError',
  'Uint16Array',
  'Uint32Array',
  'Uint8Array',
  'Uint8ClampedArray',
  'WeakMap',
  'WeakSet',
];
