'use client'

import { Dialog } from 'radix-ui'
import { ContactForm, type PersonActions } from '@/ui/directory/person-forms'

/** Records a contact with somebody without leaving the page. */
export function ContactDialog({
  name,
  person,
  contact,
  onClose,
}: {
  name: string
  person: number
  contact: PersonActions['contact']
  onClose: () => void
}) {
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/20" />
        <Dialog.Content
          className="floating fixed top-[14vh] left-1/2 w-[460px] max-w-[94vw] -translate-x-1/2 p-5!"
          aria-describedby={undefined}
        >
          <Dialog.Title asChild>
            <h2>Record a contact with {name}</h2>
          </Dialog.Title>
          <div className="mt-3">
            <ContactForm person={person} contact={contact} maySucceed={false} />
          </div>
          <Dialog.Close className="button mt-3">Close</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
