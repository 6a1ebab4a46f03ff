import { Component, type ReactNode } from 'react';
import { useLocation } from 'react-router';
import { Button } from '../ui/Button';
import { fetchMissingAnew } from '../ui/fetchedLater';

/** Loads the page anew, but never while there is nobody to load it from: that would end the sound. */
async function reloadIfServed(): Promise<void> {
  const answer = await fetch('/index.html', { cache: 'no-store' }).catch(() => null);
  if (answer?.ok) window.location.reload();
}

/** A page that fails takes nothing else with it: strip, panic and sound go on, and so do the other pages. */
export function PageBoundary({ children }: { children: ReactNode }) {
  const { pathname } = useLocation();
  return <Boundary pathname={pathname}>{children}</Boundary>;
}

class Boundary extends Component<{ pathname: string; children: ReactNode }, { failed: boolean }> {
  override state = { failed: false };

  static getDerivedStateFromError(): { failed: boolean } {
    return { failed: true };
  }

  override componentDidCatch(): void {
    fetchMissingAnew();
  }

  override componentDidUpdate({ pathname }: { pathname: string }): void {
    if (this.state.failed && pathname !== this.props.pathname) this.setState({ failed: false });
  }

  override render(): ReactNode {
    if (!this.state.failed) return this.props.children;
    return (
      <div role="alert" className="p-6">
        <h1 className="named text-4xl">This page could not be shown</h1>
        <p className="mt-2 text-lg">
          Playing goes on, and no edit is lost. Go back to a page that was open before, or load Rackle anew once its
          server is there.
        </p>
        <Button className="mt-4 mr-2" onClick={() => window.history.back()}>
          Go back
        </Button>
        <Button className="mt-4" onClick={() => void reloadIfServed()}>
          Load anew
        </Button>
      </div>
    );
  }
}
