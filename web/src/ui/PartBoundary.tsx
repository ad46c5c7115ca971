import { Component, type ReactNode } from "react";

import { Button } from "./Button";

/** Where a part of the page cannot be fetched, the rest stays, and it can be asked for again. */
export class PartBoundary extends Component<{ children: ReactNode }, { isLost: boolean }> {
  override state = { isLost: false };

  static getDerivedStateFromError() {
    return { isLost: true };
  }

  override render() {
    if (!this.state.isLost) return this.props.children;
    return (
      <p role="alert" className="flex flex-wrap items-center gap-3 p-3">
        This part of Oxlen did not load and is not saved on this device.
        <Button onClick={() => window.location.reload()}>Reload page</Button>
      </p>
    );
  }
}
