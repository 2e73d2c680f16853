/** Each word with what it means, in the order in which one meets them. */
const WORDS: readonly { heading: string; words: readonly (readonly [word: string, meaning: string])[] }[] = [
  {
    heading: 'What we keep',
    words: [
      ['Directory', 'All people, organisations and premises.'],
      ['Premises', 'A building or site with an address and a place on the map.'],
      ['Ledger', 'The dated history of a record: contacts, notes, changes, suppressions. An entry is never changed or deleted.'],
      ['Intake', 'Importing records from a file or a source. One import is a batch.'],
      ['In doubt', 'A row that could be more than one record, or only likely the same. It waits for your decision.'],
      ['Duplicates', 'Two records that are one. People decide; merging can be undone.'],
    ],
  },
  {
    heading: 'Lists',
    words: [
      ['List', 'A named, shared selection of people, organisations or premises, made of lines.'],
      ['Line', 'One step of a list: start, keep, drop, add, limit or pick. Each line shows how many it takes out and lets in.'],
      ['Balance', 'How many are on the list after a line.'],
      ['Unknown', 'A record that lacks the value a line asks about. Keep takes it out, in a column of its own; drop leaves it on.'],
      ['Deciding line', 'The line that took a record out, or put it on.'],
      ['Edition', 'A saved state of the lines. Earlier editions stay.'],
      ['List in hand', 'The list you are working on. You can put records on it from any screen.'],
      ['Territory', 'A set of postcodes that belongs to colleagues. Lists can ask for it, and contacts are shared out by it.'],
      ['Area', 'A place drawn on the map: polygons, circles, or streets with house numbers.'],
    ],
  },
  {
    heading: 'Rounds',
    words: [
      ['Round', 'One outreach on one list: requalify, screen, check, release, contact, results, close.'],
      ['Requalify', 'Run the list again, and see who joined and who left since its last round, and why.'],
      ['Screening', 'Checking a list against suppressions and rules, channel by channel.'],
      ['Policy', 'A named set of rules that lists are screened by, kept in editions. Each list goes by one.'],
      ['Held back, clear', 'The two results of screening. A person is clear by a channel if an address or number is left that we may use.'],
      [
        'Let through',
        'A held-back person cleared for one round and channel, with a written reason. Never possible after an opt-out or a complaint.',
      ],
      ['Plan', 'Over how many weeks contacts are made, so many a week by each channel, within a budget and a number of people.'],
      ['Step', 'A channel that a round uses at once, or so many days later, unless somebody answered before.'],
      ['Supplement', 'People who came onto the list while a round is out. They are screened and released by themselves, under its number.'],
      ['Allowance', 'So many message requests that the team may make in some days. An open message costs none.'],
      ['Letters to premises', 'A round of a list of premises. Its letters go to whoever is there, or to the owners at their own address.'],
      ['Release', 'Freezes who is contacted by which channel, and gives you the files.'],
      ['Channel', 'Email, phone, post or direct message.'],
    ],
  },
  {
    heading: 'What changed',
    words: [
      ['Change', 'A dated fact about a record that may ask something of you: a new role, a move, a reply, a permit.'],
      ['Between two days', 'A change happened after the last day it was seen otherwise, and by the first day it was seen so.'],
      ['Fresh, fading, gone', 'Happened within the days its kind stays useful; may be older than that; too old to start from.'],
      ['To follow', 'To hear of the changes of a record, by itself or through a list. Nobody learns that you follow them.'],
      ['Opener', 'A first sentence for one kind of change. It says no more of the day than is proved.'],
      ['Task', 'What somebody is to do about a record, a list or nothing, by when.'],
      ['Rhythm', 'When a list is due again: by the week, by the month, or so many days after its last round.'],
    ],
  },
  {
    heading: 'Who must not be contacted',
    words: [
      ['Suppression', 'Who must not be contacted, by which channels, why, since when, until when, and who asked.'],
      ['Lift', 'End a suppression by an entry that says who asked. The suppression itself stays in the history.'],
      ['Register', 'A copy of a do-not-call register. Numbers on it are not called.'],
    ],
  },
]

/** The words of the product, for whoever meets them for the first time. */
export function Glossary() {
  return (
    <main className="mx-auto max-w-[760px] px-6 py-8">
      <h1>Words</h1>
      <p className="quiet mt-1">What the words on the screens mean.</p>
      {WORDS.map(({ heading, words }) => (
        <section key={heading} className="mt-6">
          <h2>{heading}</h2>
          <dl className="mt-2 grid grid-cols-[150px_1fr] gap-x-5">
            {words.map(([word, meaning]) => (
              <div key={word} className="col-span-2 grid grid-cols-subgrid border-t border-rule py-2">
                <dt className="font-semibold">{word}</dt>
                <dd>{meaning}</dd>
              </div>
            ))}
          </dl>
        </section>
      ))}
    </main>
  )
}
