/**
 * One byte a pixel, told apart by what the byte means, so that one can't be handed over for another. Plain bytes pass for
 * any of them; what `combineMasks`, marks and mattes work with is `Mask`.
 */
type BytesMeaning<Meaning extends string> = Uint8Array & { readonly meaning?: Meaning };

/** Not 0: the pixel is not known. What is known ends there, whether it is rebuilt now or later. */
export type Hole = BytesMeaning<'hole'>;
/** Not 0: the pixel belongs to the part of the hole that is rebuilt now. */
export type PartMask = BytesMeaning<'part'>;
/** 255: the photo's pixel may be copied from; anything less: not. */
export type Donors = BytesMeaning<'donors'>;
/** 1: the work pixel may be copied from, since all that it stands for is known and allowed; 0: not. */
export type Usable = BytesMeaning<'usable'>;
