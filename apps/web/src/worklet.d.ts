/** A worklet of our own, put together like a worker, by its address. */
declare module '*?worker&url' {
  const address: string;
  // oxlint-disable-next-line no-restricted-exports -- the bundler gives the address as the default
  export default address;
}
