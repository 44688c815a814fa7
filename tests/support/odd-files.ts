import { deflateSync } from 'node:zlib'

function pngChunk(type: string, data: Buffer): Buffer {
  const body = Buffer.concat([Buffer.from(type, 'latin1'), data])
  const ends = Buffer.alloc(8)
  ends.writeUInt32BE(data.length, 0)
  ends.writeUInt32BE(crcOf(body), 4)
  return Buffer.concat([ends.subarray(0, 4), body, ends.subarray(4)])
}

/** CRC-32 as PNG uses it. */
function crcOf(data: Buffer): number {
  const table = Array.from({ length: 256 }, (_, n) => {
    let c = n
    for (let k = 0; k < 8; k += 1) c = c & 1 ? 0xedb88320 ^ (c >>> 1) : c >>> 1
    return c >>> 0
  })
  return (data.reduce((c, byte) => (table[(c ^ byte) & 255] ?? 0) ^ (c >>> 8), 0xffffffff) ^ 0xffffffff) >>> 0
}

/** A PNG of one colour that claims any size: its head says so, its data are a few bytes. */
export function hugePng(side: number): Buffer {
  const head = Buffer.alloc(13)
  head.writeUInt32BE(side, 0)
  head.writeUInt32BE(side, 4)
  head.set([8, 2, 0, 0, 0], 8)
  return Buffer.concat([Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]), pngChunk('IHDR', head), pngChunk('IDAT', deflateSync(Buffer.alloc(1000))), pngChunk('IEND', Buffer.alloc(0))])
}

/** A PNG that says of itself, before its pixels, that it moves. */
export function movingPng(still: Buffer): Buffer {
  const control = Buffer.alloc(8)
  control.writeUInt32BE(3, 0)
  return Buffer.concat([still.subarray(0, 33), pngChunk('acTL', control), still.subarray(33)])
}
