'use client'
import type { IndicatorSettings } from '@/core/rig/binding'
import type { BindingRow } from '@/core/rig/rows'
import { ExpressionField } from './expression-field'

/** What every form of an indicator's binding is given. */
export interface IndicatorFormProps<S> {
  readonly binding: BindingRow
  readonly settings: S
  readonly change: (next: IndicatorSettings) => void
}

/** An expression that may be left out, small below the main one. */
export const ExtraExpression = ({
  binding,
  label,
  use,
  value,
  emptyMeans,
  take,
}: {
  binding: BindingRow
  label: string
  use: 'condition' | 'number'
  value: string | undefined
  emptyMeans: string
  take: (text: string | null) => void
}) => (
  <div className="grid grid-cols-[104px_1fr] items-start gap-2 text-[12px]">
    <span className="pt-1 text-ink2">{label}</span>
    <ExpressionField
      binding={binding}
      use={use}
      label={label}
      value={value ?? ''}
      emptyMeans={emptyMeans}
      focus={false}
      take={take}
    />
  </div>
)
