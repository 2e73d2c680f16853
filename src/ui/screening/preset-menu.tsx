import { DropdownMenu } from 'radix-ui'
import { PRESETS, type Preset, withPreset } from '@/core/screening/presets'
import { type Rule, ruleText } from '@/core/screening/rules'

/** Adds the rules of a country to a policy, where they are edited like any other. */
export function PresetMenu({ rules, onAdd }: { rules: readonly Rule[]; onAdd: (preset: Preset) => void }) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="button">Add country rules ▾</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="floating w-[420px] p-1.5!" align="start" sideOffset={4}>
          <p className="quiet p-2">
            Rules with the source of each figure, to be edited here. They are a help and no legal advice: have somebody who knows the law
            look at them. A call goes by the country of the number; a letter, an email and a message by that of the person. Where it is not
            known, every country’s rules count.
          </p>
          {PRESETS.map((preset) => {
            const added = withPreset(rules, preset)
            const there = added.length === rules.length
            return (
              <DropdownMenu.Item key={preset.id} className="menu-item" disabled={there} onSelect={() => onAdd(preset)}>
                <span>
                  <b>{preset.name}</b>
                  <span className="quiet block">
                    {there ? 'in this policy already' : preset.rules.map((rule) => ruleText({ ...rule, id: 'preset' } as Rule)).join('; ')}
                    {!there && preset.established && '; an established relationship opens numbers on the register'}
                  </span>
                </span>
              </DropdownMenu.Item>
            )
          })}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}
