import { health } from '@/usecases/work/health'

export const dynamic = 'force-dynamic'

export async function GET() {
  const state = await health()
  return Response.json(state, { status: state.ok ? 200 : 503 })
}
