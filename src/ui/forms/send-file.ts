/** Sends a file to the intake as it is read, and tells how much of it is there. Throws with a sentence for the person. */
export async function sendFile(file: Blob, name: string, heard: (part: number) => void): Promise<number> {
  return (await sendFileTo<{ id: number }>('/api/batches', file, name, heard)).id
}

/** The same to any address that takes one; gives what came back. */
export function sendFileTo<T>(url: string, file: Blob, name: string, heard: (part: number) => void): Promise<T> {
  return new Promise((done, failed) => {
    // Unlike fetch it tells how far an upload is.
    const request = new XMLHttpRequest()
    request.open('POST', `${url}?name=${encodeURIComponent(name)}`)
    request.responseType = 'json'
    request.upload.onprogress = ({ loaded, total }) => total > 0 && heard(loaded / total)
    request.onload = () =>
      request.status < 300 && request.response ? done(request.response) : failed(new Error(request.response?.error ?? LOST))
    request.onerror = request.onabort = () => failed(new Error(LOST))
    request.send(file)
  })
}

const LOST = 'The connection was lost during the upload, or the file changed. Nothing was stored. Choose the file again.'
