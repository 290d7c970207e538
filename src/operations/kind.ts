import type { z } from 'zod';
import type { RasterImage } from '../core/image/rasterImage.ts';
import type { Quad } from '../core/geometry/insetQuad.ts';
import type { Rect, Size } from '../core/image/rect.ts';
import type { Rotation } from '../core/panorama/camera.ts';
import type { SphereView } from '../core/sphere/sphereView.ts';
import type { Reshape } from './computation.ts';
import type { CommandOption } from './commandOptions.ts';
import type { DraftBase } from './draftBase.ts';
import type { Mapping } from './following.ts';
import type { Mark } from './marks/markSchema.ts';
import type { Reads, TakeSpec } from './rebuild/rebuildSchema.ts';

/** What the parameters of every kind of step hold. */
export interface StepParams {
  /** What the step is about; kinds that change the frame have none. */
  mark?: Mark | undefined;
  /** The direct view into a sphere in which it is done. */
  view?: SphereView | undefined;
  take: TakeSpec;
}

/** Which card of the Bench a kind is worked on in. */
export type Job = 'subjects' | 'frame' | 'around';

/**
 * One kind of step, described: everything about it but its computation, which is loaded where it is done. `Own` is what
 * a draft holds for this kind alone. The interface, recipes, storage and the command line know kinds by this only.
 */
export interface StepKind<
  Type extends string = string,
  Params extends StepParams = StepParams,
  Own extends object = object,
> {
  readonly type: Type;
  readonly version: number;
  /** What the user chooses: one verb. */
  readonly title: string;
  readonly schema: z.ZodType<Params>;
  /** Entry n turns parameters of version n + 1 into those of version n + 2; never changed once released. */
  readonly migrations?: readonly ((params: unknown) => unknown)[];
  /** The ways in which its takes differ, the best on average first. */
  readonly strategies: readonly string[];
  /** Those that first read the same of a place: one worker makes their takes and remembers it. */
  readonly readTogether?: readonly string[];
  /** What was done, in a few words. */
  summarize(params: Params): string;

  /**
   * How the picture is carried over before anything else, for kinds that change its frame. `photo` of `regions` and of
   * the computation is then the new size. Throws `out-of-range` for a frame that is too large.
   */
  reshape?(params: Params, photo: Size): Reshape;
  /** For kinds whose carrying over depends on what the picture shows: it is found by their computation. */
  readonly reshapesByLook?: boolean;
  /**
   * The parts of the picture that the computation looks at; `before` is the size ahead of the carrying over. Without any
   * region nothing is computed, and all takes are one.
   */
  regions(params: Params, photo: Size, before?: Size): Rect[];
  /**
   * For kinds whose result is a layer: pixels with coverage that lie over what is beneath, made without looking at it, so
   * that the layer can be moved, weakened or hidden without being made again. Such kinds have no regions.
   */
  readonly layer?: {
    /** All that its pixels depend on. */
    content(params: Params, photo: Size): unknown;
    /** How it lies: by so many whole px from where it was made, so strongly (0..1). Throws where nothing of it shows. */
    lies(params: Params, photo: Size): Lying;
  };
  /** Which picture the first region shows, if not the one as it stands. */
  readsFrom?(params: Params): Reads;
  /**
   * Where the photo lies in the picture once margins are added around it; `inside`: where it lay before, if some were.
   * Undefined while the photo fills the picture.
   */
  photoInside?(params: Params, photo: Size, inside: Quad | undefined): Quad | undefined;
  /** By how much it turns a sphere. */
  turn?(params: Params): Rotation;
  /** The box of what it placed, which can be taken up again on the photo. */
  piece?(params: Params, photo: Size): Rect;
  /** The size it gives the picture, for kinds whose carrying over is found by looking. */
  resized?(params: Params): Size;
  /**
   * Its parameters when what they say of places follows a change of an earlier step; undefined where it can't. Without
   * this its marks and planes follow.
   */
  follow?(params: Params, by: Mapping): Params | undefined;

  readonly draft: DraftKind<Params, Own>;
}

/** How a kind of step is worked on before it is one. */
export interface DraftKind<Params extends StepParams, Own extends object> {
  readonly job: Job;
  /** Whether it is among the choices of its job; the others begin with a button or a tool of their own. */
  readonly isOffered: boolean;
  readonly schema: z.ZodType<Own>;
  /** What it begins with on a picture of this size; `before`: what was chosen before, the latest first. */
  begin(photo: Size, before: readonly Change[]): Own;
  /** What stays for the next place. */
  next?(own: Own): Own;
  /** The parameters of the step, but for its take. */
  toParams(draft: DraftBase, own: Own): Omit<z.input<z.ZodType<Params>> & object, 'take'>;
  /** The draft that opens a step for change: what it has in common with others, and its own. */
  toDraft(params: Params): { common: Partial<DraftBase>; own: Own };
  /** Its own part of a draft of the first form, in which all kinds lay side by side. */
  fromFlat?(flat: Record<string, unknown>): unknown;
  /** What is still missing before takes can be made, as one sentence. */
  missing?(draft: DraftBase, own: Own, photo: Size): string | undefined;
  /** Whether it is used as it is, because nothing is rebuilt for it. */
  isPlain?(own: Own, photo: Size): boolean;
  /** Drafts with equal keys carry the picture over in the same way. */
  shapeKey?(draft: DraftBase, own: Own): string;
  /** Whether a small picture to turn, and what touches the picture's sides, are wanted while it is set. */
  readonly looksAround?: boolean;
  /** Whether the picture is carried over as soon as the settings rest. */
  readonly showsAtOnce?: boolean;
  /** Whether takes are made anew when its settings change; else they are dropped. */
  readonly remakesTakes: boolean;
  /** Whether its subject is cut out of the mark. */
  readonly cutsOut?: boolean;
  /** The picture that its subject is taken out of. */
  reads?(own: Own): Reads;
  /** Marks among its own settings, to be drawn on the photo. */
  marks?(own: Own): Readonly<Record<string, Mark | undefined>>;
  /** Its own when an earlier step changes; without this it stays. */
  follow?(own: Own, by: Mapping, draft: DraftBase): Own;
  /** Its own settings in a few words. */
  line?(own: Own): string;
}

/** How a layer lies on the picture. */
export interface Lying {
  dx: number;
  dy: number;
  opacity: number;
}

/** A kind that is being worked on, with what is its own. */
export interface Change {
  readonly kind: string;
}

/** How a kind of step is asked for on the command line. */
export interface StepCommand {
  name: string;
  about: string;
  /** Whether it works on a mark, and offers what all such commands do (donors, closeness, direct views of spheres). */
  isMarked: boolean;
  /** Whether it takes 360-degree pictures only. */
  isForSpheres?: boolean;
  /** Whether several takes can be asked for. */
  hasTakes: boolean;
  options: readonly CommandOption[];
  /** Its parameters but for mark and take, out of its options. Another kind's, if it says which. */
  params(options: Record<string, unknown>, input: CommandInput): CommandParams | Promise<CommandParams>;
  /** Further pictures to write, by file, and further things to report. */
  extras?(
    options: Record<string, unknown>,
    params: StepParams,
    photo: Size,
    best: () => Promise<RasterImage>,
  ): Promise<CommandExtras>;
}

export interface CommandParams {
  type?: string;
  params: Record<string, unknown>;
}

export interface CommandInput {
  image: RasterImage;
  /** The outline of a text in one of the typefaces that ship with Fingo. */
  outlineText(
    text: string,
    face: string,
    layout: { align: 'left' | 'centre' | 'right'; lineHeight: number },
  ): Promise<{ outline: string; block: Size }>;
  faces: readonly string[];
}

export interface CommandExtras {
  pictures?: readonly { out: string; image: RasterImage }[];
  report?: Record<string, unknown>;
}

/** Declares a kind with its types told from what it is made of. */
export const defineKind = <Type extends string, Params extends StepParams, Own extends object>(
  kind: StepKind<Type, Params, Own>,
): StepKind<Type, Params, Own> => kind;
