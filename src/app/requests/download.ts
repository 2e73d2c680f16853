/** A CSV file, or the details of some, to be saved under its name. */
export function download({ name, bytes }: { name: string; bytes: Buffer }): Response {
  return new Response(new Uint8Array(bytes), { headers: headersFor(name) })
}

/** The same for a file that is written piece by piece. */
export function downloadStream({ name, pieces }: { name: string; pieces: AsyncGenerator<string> }): Response {
  const encoder = new TextEncoder()
  const stream = new ReadableStream({
    async pull(controller) {
      const { value, done } = await pieces.next()
      if (done) controller.close()
      else controller.enqueue(encoder.encode(value))
    },
    cancel: () => void pieces.return(undefined),
  })
  return new Response(stream, { headers: headersFor(name) })
}

/** What files are by their endings; everything else is CSV. */
const TYPES: Record<string, string> = {
  '.json': 'application/csvm+json',
  '.jsonl': 'application/jsonl; charset=utf-8',
  '.pdf': 'application/pdf',
  '.vcf': 'text/vcard; charset=utf-8',
  '.xlsx': 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  '.zip': 'application/zip',
}

function headersFor(name: string) {
  return {
    // The details of CSV files have a type of their own (Model for Tabular Data and Metadata on the Web, W3C 2015, section 5.2).
    'content-type': TYPES[name.slice(name.lastIndexOf('.'))] ?? 'text/csv; charset=utf-8',
    'content-disposition': `attachment; filename="${name.replace(/[^\x20-\x7e]|["\\]/g, '_')}"; filename*=UTF-8''${encodeURIComponent(name)}`,
    'cache-control': 'no-store',
    'x-content-type-options': 'nosniff',
  }
}
