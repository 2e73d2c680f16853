'use client'

import { useState } from 'react'
import type { Subject } from '@/core/records/subject'
import type { ProposalEffect, RecordView } from '@/core/views/list-views'
import { ask } from '@/ui/book/ask'
import { RecordBeside } from '@/ui/directory/record-beside'
import { RecordTable } from '@/ui/tables/record-table'
import { TabRow } from '@/ui/book/tab-row'
import { useRecords } from '@/ui/tables/use-records'

export type ProposalSide = 'left' | 'joined' | 'stayed'

const EMPTY: Record<ProposalSide, string> = { left: 'Nobody would leave.', joined: 'Nobody would join.', stayed: 'Nobody would stay.' }

/** Who would leave, join or stay by what is proposed, with the line that decides it. */
export function ProposalRecords({
  proposal,
  by,
  subject,
  edition,
  heard,
  tab,
  onTab,
  onBack,
}: {
  proposal: number
  by: string
  subject: Subject
  edition: number
  heard: number
  tab: ProposalSide
  onTab: (tab: ProposalSide) => void
  onBack: () => void
}) {
  const [beside, setBeside] = useState<RecordView | null>(null)
  const records = useRecords(['proposal', proposal, edition, heard, tab], async (offset, signal) => {
    const got = await ask<ProposalEffect>(`/api/proposals/${proposal}`, { tab, offset }, signal)
    return { ...got.page, about: got.figures }
  })
  const figures = records.about
  return (
    <>
      <TabRow
        label="Tabs of people"
        open={tab}
        onOpen={(key) => onTab(key as ProposalSide)}
        tabs={[
          { key: 'left', title: 'Would leave', total: figures?.left ?? null },
          { key: 'joined', title: 'Would join', total: figures?.joined ?? null },
          { key: 'stayed', title: 'Would stay', total: figures?.stayed ?? null },
        ]}
      />
      <p className="quiet mt-2 flex items-start justify-between gap-3">
        <span>By what {by} proposes, on today’s data.</span>
        <button type="button" className="font-semibold whitespace-nowrap text-verdigris" onClick={onBack}>
          Back to the list
        </button>
      </p>
      <RecordTable
        subject={subject}
        records={records}
        because={tab === 'stayed' ? undefined : 'Deciding line'}
        empty={EMPTY[tab]}
        onOpen={setBeside}
        open={beside?.id ?? null}
      />
      {beside && <RecordBeside subject={subject} record={beside} onClose={() => setBeside(null)} />}
    </>
  )
}
