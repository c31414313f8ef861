import { Component, type ReactNode } from "react";
import { useConnected } from "./shop";
import { reason } from "../reason";

/** Failed stands where a screen could not be shown, with a way on; the rest of the window goes on working. */
function Failed({ error }: { error: unknown }) {
  const text = reason(error);
  const connected = useConnected();
  // A part of the front end that did not come: the server is away, or was updated while the page was open.
  const updated = /dynamically imported module|module script failed|Unable to preload/i.test(text);
  return (
    <section role="alert" className="max-w-140 p-6">
      <h2 className="text-lg font-bold">
        {!connected ? "Hobrak doesn't answer" : updated ? "Hobrak was updated" : "This screen can't be shown"}
      </h2>
      <p className="mt-1 mb-3">
        {!connected
          ? "Start it again, then reload the page. What you entered is saved."
          : updated
            ? "Reload the page to go on with the new version. What you entered is saved."
            : "Something in it failed. Your shop is safe; try again, or go on with another screen."}
      </p>
      {!updated && <p className="mb-3 text-small text-quiet">{text}</p>}
      <button className="bg-blue px-3 py-1.5 font-bold text-sheet" onClick={() => window.location.reload()}>
        Reload the page
      </button>
    </section>
  );
}

/** Catch shows that something below it failed, in its stead. */
export class Catch extends Component<{ children: ReactNode }, { error?: unknown }> {
  override state: { error?: unknown } = {};
  static getDerivedStateFromError = (error: unknown) => ({ error });
  override render() {
    return "error" in this.state ? <Failed error={this.state.error} /> : this.props.children;
  }
}
