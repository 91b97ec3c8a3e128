import { Component, useEffect, useState, type ReactNode } from 'react';
import { saveUnsent, unsentWords } from './kept/aside';
import { dropRead } from './ask/reading';

/** Where a page cannot be drawn: what was read is dropped, and nothing that was entered. */
export function Broken({ error }: { error: unknown }) {
  const [dropped, setDropped] = useState(false);
  useEffect(() => {
    console.error(error);
    dropRead().then(
      () => setDropped(true),
      (trouble: unknown) => console.error(trouble),
    );
  }, [error]);
  return (
    <main className="page" role="alert">
      <h1>This page could not be drawn</h1>
      <p>
        {dropped ? 'What this browser had read of the program has been dropped, and is read anew.' : 'What was read could not be dropped.'}{' '}
        {unsentWords()}.
      </p>
      <div className="build">
        <button type="button" className="btn btn-primary" onClick={() => window.location.reload()}>
          Open it again
        </button>
        <button type="button" className="word" onClick={() => void saveUnsent()}>
          save what is not sent
        </button>
      </div>
    </main>
  );
}

/** Shows that in the place of everything under it that cannot be drawn. */
export class Whole extends Component<{ children: ReactNode }, { error: unknown }> {
  override state: { error: unknown } = { error: null };

  static getDerivedStateFromError(error: unknown) {
    return { error };
  }

  override render() {
    return this.state.error === null ? this.props.children : <Broken error={this.state.error} />;
  }
}
