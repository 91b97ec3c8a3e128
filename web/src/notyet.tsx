/** A page that is not there yet says in one sentence what it will do. */
export function NotYet({ page, will }: { page: string; will: string }) {
  return (
    <main className="page">
      <h2>{page}</h2>
      <p>{will}</p>
    </main>
  );
}
