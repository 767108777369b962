/**
 * Sums over links: what patches give off, added up for each patch over the patches that its links end on.
 *
 * A patch has 64 bytes, as many as memory is read by at once: of four lights red, green, blue and luminance, 32-bit floats.
 * `links` are `count` places of patches a patch, in a row; negative ones end on none.
 */
export function sumLinks(links: usize, count: i32, patches: i32, given: usize, sums: usize): void {
  for (let p = 0; p < patches; p++, sums += 64) {
    let a = f32x4.splat(0);
    let b = f32x4.splat(0);
    let c = f32x4.splat(0);
    let d = f32x4.splat(0);
    const end = links + ((<usize>count) << 2);
    for (; links < end; links += 4) {
      const link = load<i32>(links);
      if (link < 0) continue;
      const at = given + ((<usize>link) << 6);
      a = f32x4.add(a, v128.load(at));
      b = f32x4.add(b, v128.load(at, 16));
      c = f32x4.add(c, v128.load(at, 32));
      d = f32x4.add(d, v128.load(at, 48));
    }
    v128.store(sums, a);
    v128.store(sums, b, 16);
    v128.store(sums, c, 32);
    v128.store(sums, d, 48);
  }
}

/** The same, with the sums of the squares. */
export function sumLinksSquared(
  links: usize,
  count: i32,
  patches: i32,
  given: usize,
  sums: usize,
  squares: usize,
): void {
  for (let p = 0; p < patches; p++, sums += 64, squares += 64) {
    for (let part: usize = 0; part < 64; part += 16) {
      let a = f32x4.splat(0);
      let b = f32x4.splat(0);
      for (let k: usize = 0; k < (<usize>count) << 2; k += 4) {
        const link = load<i32>(links + k);
        if (link < 0) continue;
        const value = v128.load(given + ((<usize>link) << 6) + part);
        a = f32x4.add(a, value);
        b = f32x4.add(b, f32x4.mul(value, value));
      }
      v128.store(sums + part, a);
      v128.store(squares + part, b);
    }
    links += (<usize>count) << 2;
  }
}
