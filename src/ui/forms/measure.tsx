import { useEffect, useState } from 'react'
import { inKept, inUnit, type Quantity, type Unit, unitsOf } from '@/core/text/units'

/** The unit one told a quantity in last, on this machine. */
function useUnit(quantity: Quantity, told: Unit | undefined): [Unit, (unit: Unit) => void] {
  const [unit, setUnit] = useState<Unit>(told ?? quantity)
  const key = `unit of ${quantity}`
  useEffect(() => {
    const last = localStorage.getItem(key)
    if (told === undefined && unitsOf(quantity).includes(last as Unit)) setUnit(last as Unit)
  }, [told, quantity, key])
  return [
    unit,
    (next) => {
      localStorage.setItem(key, next)
      setUnit(next)
    },
  ]
}

/**
 * Numbers of a quantity, each in a field of its own, and the unit they are told in. `values` and what is handed to `onValues` are in
 * the unit the quantity is kept in; what is typed stays as it is when another unit is chosen.
 */
export function Measures<K extends string>({
  quantity,
  unit: told,
  labels,
  values,
  least,
  onValues,
}: {
  quantity: Quantity
  unit?: Unit
  labels: Record<K, string>
  values: Record<K, number | null>
  least?: number
  onValues: (values: Record<K, number | null>, unit: Unit) => void
}) {
  const [unit, setUnit] = useUnit(quantity, told)
  const names = Object.keys(labels) as K[]
  const shown = (name: K) => (values[name] === null ? '' : inUnit(quantity, unit, values[name]))
  const inAll = (of: (name: K) => number | null): Record<K, number | null> =>
    Object.fromEntries(names.map((name) => [name, of(name)])) as Record<K, number | null>
  return (
    <>
      {names.map((name, i) => (
        <label key={name} className="field">
          <span>{labels[name]}</span>
          <input
            type="number"
            step="any"
            min={least}
            autoFocus={i === 0}
            value={shown(name)}
            onChange={(e) => {
              const text = e.target.value
              const typed = text.trim() === '' || !Number.isFinite(Number(text)) ? null : inKept(quantity, unit, Number(text))
              onValues(
                inAll((other) => (other === name ? typed : values[other])),
                unit,
              )
            }}
          />
        </label>
      ))}
      <label className="field">
        <span>In</span>
        <select
          value={unit}
          onChange={(e) => {
            const next = e.target.value as Unit
            onValues(
              inAll((name) => (values[name] === null ? null : inKept(quantity, next, inUnit(quantity, unit, values[name])))),
              next,
            )
            setUnit(next)
          }}
        >
          {unitsOf(quantity).map((of) => (
            <option key={of}>{of}</option>
          ))}
        </select>
      </label>
    </>
  )
}
