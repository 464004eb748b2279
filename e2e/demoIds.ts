/** Of the demo's tapes and its story. */
export const QUAY = '5e1f0c52-7a44-4d6e-9a0b-0c1d7f3b2a01'
export const COUNCIL = '5e1f0c52-7a44-4d6e-9a0b-0c1d7f3b2a02'
export const TRACKS = '5e1f0c52-7a44-4d6e-9a0b-0c1d7f3b2a03'
export const AMBIENCE = '5e1f0c52-7a44-4d6e-9a0b-0c1d7f3b2a04'
export const FERRY = '5e1f0c52-7a44-4d6e-9a0b-0c1d7f3b2b01'
