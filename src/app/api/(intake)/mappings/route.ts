import { answer } from '@/app/requests/answer'
import { mappingProfiles } from '@/usecases/intake/mapping-profiles'
import { applyProfile } from '@/usecases/intake/apply-profile'

/** Mappings that were saved; with a batch and a number, how that one fits its columns. */
export async function GET(request: Request) {
  const { searchParams } = new URL(request.url)
  const [batch, profile] = [searchParams.get('batch'), searchParams.get('profile')]
  return answer(request, (who) => (batch && profile ? applyProfile(who, Number(batch), Number(profile)) : mappingProfiles(who)))
}
