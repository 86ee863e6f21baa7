import { Component, type ErrorInfo, type ReactNode } from "react";
import { Failed } from "@/ui/Failed";

interface Caught {
  error: Error | null;
}

/** A fault in drawing one screen ends that screen and nothing else; what waits to be sent goes on. */
export class ErrorBoundary extends Component<{ children: ReactNode }, Caught> {
  override state: Caught = { error: null };

  static getDerivedStateFromError(error: Error): Caught {
    return { error };
  }

  override componentDidCatch(error: Error, info: ErrorInfo): void {
    console.error("a screen could not be drawn", error.message, info.componentStack);
  }

  override render(): ReactNode {
    const { error } = this.state;
    if (!error) return this.props.children;
    return <Failed error={error} onAgain={() => this.setState({ error: null })} />;
  }
}
