import type { AreaShape } from '@/core/areas/shape'

/** A square with a hole, a circle, and a street on either side. */
export const AREAS: AreaShape[] = [
  {
    polygons: [
      [
        [
          [1.42, 55.22],
          [1.52, 55.22],
          [1.52, 55.33],
          [1.42, 55.33],
        ],
        [
          [1.45, 55.25],
          [1.48, 55.25],
          [1.48, 55.28],
        ],
      ],
    ],
    circles: [],
    streets: [],
  },
  { polygons: [], circles: [{ lat: 55.3, lon: 1.5, metres: 6000 }], streets: [{ street: 'Mill Lane', from: 13, to: null, side: 'odd' }] },
  {
    polygons: [],
    circles: [],
    streets: [
      { street: 'weir st', from: null, to: 8, side: 'both' },
      { street: 'Old Maltings', from: null, to: null, side: 'both' },
    ],
  },
]
