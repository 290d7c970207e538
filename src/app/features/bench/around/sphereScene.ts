import {
  BufferAttribute,
  BufferGeometry,
  Camera,
  GLSL3,
  LinearFilter,
  Matrix3,
  Mesh,
  RawShaderMaterial,
  RepeatWrapping,
  Scene,
  Texture,
  Vector2,
  WebGLRenderer,
} from 'three';
import type { Size } from '../../../../core/image/rect.ts';
import { cameraOf } from '../../../../core/sphere/sphereView.ts';
import type { Direction } from './looking.ts';

export interface SphereScene {
  /** What is on the sphere from now on. */
  setPicture(bitmap: ImageBitmap): void;
  draw(direction: Direction, screen: Size, pixelRatio: number): void;
  close(): void;
}

const VERTEX = `
in vec2 position;
out vec2 at;
uniform vec2 reach;
void main() {
  at = position * reach;
  gl_Position = vec4(position, 0.0, 1.0);
}`;

/** Each px looks its own direction up, so that the poles are as right as all else. Axes: right, down, forward. */
const FRAGMENT = `
precision highp float;
in vec2 at;
out vec4 colour;
uniform mat3 rotation;
uniform sampler2D picture;
void main() {
  vec3 ray = rotation * vec3(at.x, -at.y, 1.0);
  float across = atan(ray.x, ray.z) * 0.15915494309 + 0.5;
  float down = atan(ray.y, length(ray.xz)) * 0.31830988618 + 0.5;
  colour = vec4(textureLod(picture, vec2(across, down), 0.0).rgb, 1.0);
}`;

/** A sphere seen from its middle, drawn by WebGL on a canvas; undefined where that is not to be had. */
export function createSphereScene(canvas: HTMLCanvasElement): SphereScene | undefined {
  let renderer: WebGLRenderer;
  try {
    renderer = new WebGLRenderer({ canvas, antialias: false, depth: false, stencil: false, alpha: false });
  } catch {
    return undefined;
  }
  const texture = new Texture();
  texture.flipY = false;
  texture.minFilter = LinearFilter;
  texture.generateMipmaps = false;
  texture.wrapS = RepeatWrapping;
  const reach = new Vector2();
  const rotation = new Matrix3();
  const material = new RawShaderMaterial({
    glslVersion: GLSL3,
    vertexShader: VERTEX,
    fragmentShader: FRAGMENT,
    uniforms: { reach: { value: reach }, rotation: { value: rotation }, picture: { value: texture } },
    depthTest: false,
    depthWrite: false,
  });
  // One triangle that covers the whole screen.
  const triangle = new BufferGeometry();
  triangle.setAttribute('position', new BufferAttribute(Float32Array.of(-1, -1, 3, -1, -1, 3), 2));
  const mesh = new Mesh(triangle, material);
  mesh.frustumCulled = false;
  const scene = new Scene().add(mesh);
  const camera = new Camera();
  return {
    setPicture(bitmap) {
      texture.dispose();
      texture.image = bitmap;
      texture.needsUpdate = true;
    },
    draw({ yaw, pitch, fov }, screen, pixelRatio) {
      const width = Math.max(1, Math.round(screen.width * pixelRatio));
      const height = Math.max(1, Math.round(screen.height * pixelRatio));
      // Setting the size makes the drawing buffer anew, even where it is the same.
      if (canvas.width !== width || canvas.height !== height) renderer.setSize(width, height, false);
      const { rotation: r, focalPx } = cameraOf({ yaw, pitch, roll: 0, fov, ...screen });
      rotation.set(...r);
      reach.set(screen.width / 2 / focalPx, screen.height / 2 / focalPx);
      renderer.render(scene, camera);
    },
    close() {
      triangle.dispose();
      material.dispose();
      texture.dispose();
      renderer.dispose();
    },
  };
}
