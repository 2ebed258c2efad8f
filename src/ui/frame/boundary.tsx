'use client'
import { Component, type ErrorInfo, type ReactNode } from 'react'

interface Props {
  /** What it is called where it fails. */
  readonly name: string
  /** Another key is another thing to show: what failed before does not count for it. */
  readonly of?: string
  readonly children: ReactNode
}

interface State {
  readonly failed: string | null
  readonly of: string | undefined
}

/** Keeps what fails in one part of the page there: it says so, and the rest works on. */
export class Boundary extends Component<Props, State> {
  override state: State = { failed: null, of: this.props.of }

  static getDerivedStateFromError(error: unknown): Partial<State> {
    return { failed: error instanceof Error ? error.message : String(error) }
  }

  static getDerivedStateFromProps({ of }: Props, state: State): Partial<State> | null {
    return of === state.of ? null : { failed: null, of }
  }

  override componentDidCatch(error: unknown, { componentStack }: ErrorInfo): void {
    console.error(`${this.props.name} failed:`, error, componentStack)
  }

  override render(): ReactNode {
    const { failed } = this.state
    if (failed === null) return this.props.children
    return (
      <div role="alert" className="flex flex-col items-start gap-2 p-3.5 text-[12px]">
        <p className="text-fault">
          {this.props.name} cannot be shown: {failed}
        </p>
        <p className="text-ink2">
          Nothing of the rig is lost, and the rest of the page works. What was done last may be the cause;
          Ctrl Z takes it back.
        </p>
        <button type="button" className="btn" onClick={() => this.setState({ failed: null })}>
          Show it again
        </button>
      </div>
    )
  }
}
