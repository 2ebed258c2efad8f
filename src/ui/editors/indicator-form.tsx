'use client'
import type { IndicatorAspect } from '@/core/catalogue/part-kind'
import type { IndicatorSettings } from '@/core/rig/binding'
import { ColourForm } from './colour-form'
import { DigitsForm } from './digits-form'
import type { IndicatorFormProps } from './extra-expression'
import { PageForm } from './page-form'

/** How a kind of indicator shows what its shaping gives. Lamps and needles need nothing more. */
export const IndicatorForm = ({
  binding,
  settings,
  aspect,
  change,
}: IndicatorFormProps<IndicatorSettings> & { readonly aspect: IndicatorAspect }) => {
  switch (settings.kind) {
    case 'digits':
      return <DigitsForm binding={binding} settings={settings} change={change} />
    case 'text':
      return (
        <PageForm
          binding={binding}
          settings={settings}
          change={change}
          rows={aspect.kind === 'text' ? aspect.rows : 4}
        />
      )
    case 'colour':
      return <ColourForm binding={binding} settings={settings} change={change} />
    default:
      return null
  }
}
