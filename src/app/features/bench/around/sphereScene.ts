import {
  BufferAttribute,
  BufferGeometry,
  DoubleSide,
  LinearFilter,
  LinearSRGBColorSpace,
  Matrix4,
  Mesh,
  MeshBasicMaterial,
  NoColorSpace,
  PerspectiveCamera,
  Scene,
  Texture,
  Vector3,
  WebGLRenderer,
} from 'three';
import type { Size } from '../../../../core/image/rect.ts';
import { cameraOf, directionOnSphere } from '../../../../core/sphere/sphereView.ts';
import type { Direction } from './looking.ts';

/** The sphere is drawn as a grid of so many fields around and from pole to pole. */
const AROUND = 128;
const DOWN = 64;
const UNIT: Size = { width: 1, height: 1 };

export interface SphereScene {
  /** What is on the sphere from now on. */
  setPicture(bitmap: ImageBitmap): void;
  draw(direction: Direction, screen: Size, pixelRatio: number): void;
  close(): void;
}

/** A sphere seen from its middle, drawn by WebGL on a canvas; undefined where that is not to be had. */
export function createSphereScene(canvas: HTMLCanvasElement): SphereScene | undefined {
  let renderer: WebGLRenderer;
  try {
    renderer = new WebGLRenderer({ canvas, antialias: false });
  } catch {
    return undefined;
  }
  // Values go through as they are: the picture's are what the screen shows.
  renderer.outputColorSpace = LinearSRGBColorSpace;
  const texture = new Texture();
  Object.assign(texture, { colorSpace: NoColorSpace, flipY: false, minFilter: LinearFilter, generateMipmaps: false });
  const material = new MeshBasicMaterial({ map: texture, side: DoubleSide });
  const mesh = new Mesh(sphereGrid(), material);
  const scene = new Scene().add(mesh);
  const camera = new PerspectiveCamera();
  camera.near = 0.1;
  camera.far = 2;
  return {
    setPicture(bitmap) {
      texture.dispose();
      texture.image = bitmap;
      texture.needsUpdate = true;
    },
    draw({ yaw, pitch, fov }, screen, pixelRatio) {
      renderer.setPixelRatio(pixelRatio);
      renderer.setSize(screen.width, screen.height, false);
      const { rotation: r, focalPx } = cameraOf({ yaw, pitch, roll: 0, fov, ...screen });
      camera.fov = (360 / Math.PI) * Math.atan(screen.height / 2 / focalPx);
      camera.aspect = screen.width / screen.height;
      camera.updateProjectionMatrix();
      // From axes right, down, forward to right, up, back.
      const axes = new Matrix4().makeBasis(
        new Vector3(r[0], -r[3], -r[6]),
        new Vector3(-r[1], r[4], r[7]),
        new Vector3(-r[2], r[5], r[8]),
      );
      camera.quaternion.setFromRotationMatrix(axes);
      renderer.render(scene, camera);
    },
    close() {
      mesh.geometry.dispose();
      material.dispose();
      texture.dispose();
      renderer.dispose();
    },
  };
}

/** Points of the sphere, with the places of the picture that they show. */
function sphereGrid(): BufferGeometry {
  const positions: number[] = [];
  const places: number[] = [];
  const triangles: number[] = [];
  for (let row = 0; row <= DOWN; row++) {
    for (let column = 0; column <= AROUND; column++) {
      const [u, v] = [column / AROUND, row / DOWN];
      const [x, y, z] = directionOnSphere(u, v, UNIT);
      positions.push(x, -y, -z);
      places.push(u, v);
      if (row === DOWN || column === AROUND) continue;
      const at = row * (AROUND + 1) + column;
      triangles.push(at, at + 1, at + AROUND + 1, at + 1, at + AROUND + 2, at + AROUND + 1);
    }
  }
  const grid = new BufferGeometry();
  grid.setAttribute('position', new BufferAttribute(Float32Array.from(positions), 3));
  grid.setAttribute('uv', new BufferAttribute(Float32Array.from(places), 2));
  grid.setIndex(triangles);
  return grid;
}
