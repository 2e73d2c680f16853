import { alike } from './alike'
import { balances } from './balances'
import { compare } from './compare'
import { differ } from './differ'
import { draw } from './draw'
import { find } from './find'
import { fitPatterns } from './fit-patterns'
import { group } from './group'
import { list } from './list'
import { map } from './map'
import { members } from './members'
import { presence } from './presence'
import { profile } from './profile'
import { release } from './release'
import { requalify } from './requalify'
import { resize } from './resize'
import { screen } from './screen'
import { streets } from './streets'

/** Every question the engine answers: one row a question. */
export const VERBS = {
  alike,
  balances,
  compare,
  differ,
  draw,
  find,
  fitPatterns,
  group,
  list,
  map,
  members,
  presence,
  profile,
  release,
  requalify,
  resize,
  screen,
  streets,
}
