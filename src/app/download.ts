/** A CSV file to be saved under its name. */
export function download({ name, bytes }: { name: string; bytes: Buffer }): Response {
  return new Response(new Uint8Array(bytes), {
    headers: {
      'content-type': 'text/csv; charset=utf-8',
      'content-disposition': `attachment; filename="${name.replace(/[^\x20-\x7e]|["\\]/g, '_')}"; filename*=UTF-8''${encodeURIComponent(name)}`,
      'cache-control': 'no-store',
    },
  })
}
