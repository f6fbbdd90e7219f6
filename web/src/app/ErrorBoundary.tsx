import { Component, type ReactNode } from "react";
import { NoAnswer, Refused } from "../api/client.ts";

/** Says what happened, what is safe, what to do. */
export class ErrorBoundary extends Component<{ children: ReactNode }, { error: Error | null }> {
  override state: { error: Error | null } = { error: null };

  static getDerivedStateFromError(error: Error) {
    return { error };
  }

  override render() {
    const { error } = this.state;
    if (!error) return this.props.children;
    const said =
      error instanceof Refused && error.status === 404
        ? "There is no such job here, or it belongs to another shop."
        : error instanceof Refused && error.status === 403
          ? error.message
          : error instanceof NoAnswer
            ? "There is no network, and this page was not opened on this device before."
            : "This page failed.";
    return (
      <main className="p-8">
        <h1>{said}</h1>
        <p className="mb-4 text-soft">What you typed is kept on this device.</p>
        <a className="btn go" href="/">
          Go to Today
        </a>
      </main>
    );
  }
}
