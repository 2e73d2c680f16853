/** Something was recorded while the round was being released, which it must heed: it begins anew. */
export class Overtaken extends Error {}
