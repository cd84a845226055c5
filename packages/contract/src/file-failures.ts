/** Files that cannot be taken. */
export const FILE_FAILURES = {
  'not-a-capture': {
    happened: 'This is not a capture that can be read.',
    means: 'Only the classic capture form (pcap) of link type 202, AX.25 behind a KISS octet, is read.',
    try: 'Save the capture in that form; ./mistpeak tool pcap writes it.',
  },
  'not-a-tile': {
    happened: 'This is not an elevation tile that can be read.',
    means:
      'A tile is named by its south-west corner and holds 1201 × 1201 or 3601 × 3601 heights; nothing of it was taken.',
    try: 'Take the tile as it was published, unpacked, and leave its name as it is, like S30W012.hgt.',
  },
  'not-a-map': {
    happened: 'This is not a map file that can be read.',
    means: 'A map is one PMTiles file of version 3, vector or raster, whole; nothing of it was kept.',
    try: 'Take the file as it was made, with a name that ends in .pmtiles; if it was cut off on its way, fetch it again.',
  },
  'not-a-kit': {
    happened: 'This is not a kit that can be read.',
    means: 'Something in the file is not as docs/kit.md describes it; nothing of it was taken.',
    try: 'Correct what is named below, or save a kit from here and compare.',
  },
} as const;
