import { Component, type ReactNode } from "react";
import { ErrorNote } from "../ui/States";

/** A page that breaks says so and leaves the rooms standing. It begins afresh with each address. */
export class Boundary extends Component<{ children: ReactNode }, { broken: boolean }> {
  override state = { broken: false };

  static getDerivedStateFromError() {
    return { broken: true };
  }

  override render() {
    if (!this.state.broken) return this.props.children;
    return (
      <ErrorNote
        text="This page broke. Nothing that was saved is lost."
        onRetry={() => this.setState({ broken: false })}
      />
    );
  }
}
