let known: number | null = null;

/**
 * Samples along the slope of a surface, so that pictures stay sharp at a glancing view. One where the processor draws: a
 * common software renderer hangs in its loop over such samples, and every one costs it as much as the first.
 */
export function anisotropy(): number {
  if (known !== null) return known;
  const gl = 'WebGL2RenderingContext' in globalThis ? document.createElement('canvas').getContext('webgl2') : null;
  const info = gl?.getExtension('WEBGL_debug_renderer_info');
  const renderer = gl && info ? String(gl.getParameter(info.UNMASKED_RENDERER_WEBGL)) : '';
  gl?.getExtension('WEBGL_lose_context')?.loseContext();
  known = /llvmpipe|softpipe|swiftshader|software|basic render/i.test(renderer) ? 1 : 8;
  return known;
}
