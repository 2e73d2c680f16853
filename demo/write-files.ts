import { writeFileSync } from 'node:fs'
import { pellowCounty } from './county'
import { firstFile, secondFile } from './files'

/** Writes demo/files anew: `node --import tsx demo/write-files.ts`. */
const county = pellowCounty()
for (const file of [firstFile(county), secondFile(county)]) writeFileSync(new URL(`./files/${file.name}`, import.meta.url), file.bytes)
