import { Component, type ReactNode } from "react";
import { goTo } from "@/state/route";

/** What is shown in place of a page that failed; nothing of the work is lost, as every change is kept when it is made. */
export class Safe extends Component<{ children: ReactNode }, { fault: Error | null }> {
  override state = { fault: null as Error | null };

  static getDerivedStateFromError(fault: unknown) {
    return { fault: fault instanceof Error ? fault : new Error(String(fault)) };
  }

  override render() {
    const { fault } = this.state;
    if (!fault) return this.props.children;
    const again = () => this.setState({ fault: null });
    return (
      <main className="grid h-full place-content-center text-center" role="alert">
        <h1 className="text-xl font-semibold">This page failed to draw</h1>
        <p className="mt-2 max-w-md text-soft">
          Nothing you made is lost: every change was kept when you made it. The page says: {fault.message}
        </p>
        <p className="mt-4 flex justify-center gap-3">
          <button type="button" className="act-main" onClick={again}>
            Try again
          </button>
          <button
            type="button"
            className="act"
            onClick={() => {
              goTo("/");
              again();
            }}
          >
            All designs
          </button>
        </p>
      </main>
    );
  }
}
