import { CHANNEL_NAME, type Channel } from '@/core/records/channels'

/** The channel and the written reason with which somebody is let through. */
export function LetThroughForm({
  title,
  channels,
  told,
  busy,
  onSend,
}: {
  title: string
  channels: readonly Channel[]
  told: string | null
  busy: boolean
  onSend: (channel: Channel, reason: string) => void
}) {
  return (
    <form
      className="grid gap-3"
      onSubmit={(event) => {
        event.preventDefault()
        const form = new FormData(event.currentTarget)
        onSend(form.get('channel') as Channel, String(form.get('reason') ?? ''))
      }}
    >
      <b>{title}</b>
      <label className="field">
        <span>By</span>
        <select name="channel">
          {channels.map((channel) => (
            <option key={channel} value={channel}>
              {CHANNEL_NAME[channel]}
            </option>
          ))}
        </select>
      </label>
      <label className="field">
        <span>Reason, kept with the round and in the ledger</span>
        <textarea name="reason" rows={2} required maxLength={400} autoFocus />
      </label>
      {told && (
        <p role="alert" className="told">
          {told}
        </p>
      )}
      <button type="submit" className="button button-main justify-self-end" disabled={busy}>
        Let through
      </button>
    </form>
  )
}
