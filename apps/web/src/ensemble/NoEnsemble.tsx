/** Said to who is signed in and was put with no ensemble, or was taken out of the last one. */
export function NoEnsemble() {
  return (
    <>
      <p className="mt-8 text-2xl font-bold">You lead no ensemble here.</p>
      <p className="mt-2 max-w-[36rem] text-lg text-quiet">
        A director of one adds you on their shelf, under “people”, by the name you sign in with. Then open
        this page again.
      </p>
    </>
  );
}
