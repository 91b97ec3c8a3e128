import { useReach } from './reach';

/** A page while it is read; and where it cannot be, and never was in this browser, that it is so. */
export function Unread() {
  if (useReach()) return <main className="page" aria-busy="true" />;
  return (
    <main className="page">
      <p role="status">
        The program does not answer, and this browser has not read this page before. It is shown as soon as the program answers.
      </p>
    </main>
  );
}
