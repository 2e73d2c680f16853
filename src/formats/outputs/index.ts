import type { FileFormat } from '@/core/rounds/file-layout'
import { csv } from './csv'
import { jsonl } from './jsonl'
import type { Output } from './output'
import { vcard } from './vcard'
import { xlsx } from './xlsx'

/** What writes each format in which files are handed over. */
export const OUTPUTS: Record<FileFormat, Output> = { csv, xlsx, jsonl, vcard }
