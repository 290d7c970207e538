import { DOMParser, XMLSerializer, type Element } from '@xmldom/xmldom';
import { z } from 'zod';
import type { SpherePlacement } from '../../core/sphere/placement.ts';

const GPANO = 'http://ns.google.com/photos/1.0/panorama/';
const RDF = 'http://www.w3.org/1999/02/22-rdf-syntax-ns#';
const XMP_NOTE = 'http://ns.adobe.com/xmp/note/';
const EMPTY_PACKET =
  `<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="${RDF}">` +
  '<rdf:Description rdf:about=""/></rdf:RDF></x:xmpmeta>';

const px = z.coerce.number().int().min(0).max(1e6);

/** The open sphere metadata of a picture (GPano XMP), px as its tags tell them. */
const tagsSchema = z.object({
  ProjectionType: z.string(),
  FullPanoWidthPixels: px,
  FullPanoHeightPixels: px,
  CroppedAreaImageWidthPixels: px,
  CroppedAreaImageHeightPixels: px,
  CroppedAreaLeftPixels: px,
  CroppedAreaTopPixels: px,
});

export type SphereTags = z.infer<typeof tagsSchema>;

/** The sphere tags of an XMP packet: undefined where it has none, `broken` where they are incomplete or no numbers. */
export function readSphereTags(xmp: string): SphereTags | 'broken' | undefined {
  const root = parsed(xmp);
  if (!root) return undefined;
  const found: Record<string, string> = {};
  const visit = (element: Element): void => {
    for (let k = 0; k < element.attributes.length; k++) {
      const { namespaceURI, localName, value } = element.attributes.item(k)!;
      if (namespaceURI === GPANO && localName) found[localName] = value.trim();
    }
    if (element.namespaceURI === GPANO && element.localName)
      found[element.localName] = (element.textContent ?? '').trim();
    for (let k = 0; k < element.childNodes.length; k++) {
      const child = element.childNodes.item(k)!;
      if (child.nodeType === child.ELEMENT_NODE) visit(child as Element);
    }
  };
  visit(root);
  if (found.ProjectionType === undefined && found.FullPanoWidthPixels === undefined) return undefined;
  const tags = tagsSchema.safeParse(found);
  return tags.success ? tags.data : 'broken';
}

/**
 * An XMP packet that tells a picture to lie there on its sphere, in place of any sphere tags it had; all else of `xmp`
 * stays. `levelled` drops what it told of a camera held askew.
 */
export function withSphereTags(xmp: string | undefined, placement: SpherePlacement, levelled = false): string {
  const root = (xmp !== undefined ? parsed(xmp) : undefined) ?? parsed(EMPTY_PACKET)!;
  const rdf = root.localName === 'RDF' ? root : root.getElementsByTagNameNS(RDF, 'RDF').item(0);
  if (!rdf) return withSphereTags(undefined, placement, levelled);
  const outdated = new Set([...Object.keys(tagsSchema.shape), 'UsePanoramaViewer']);
  if (levelled) for (const name of ['PosePitchDegrees', 'PoseRollDegrees']) outdated.add(name);
  const descriptions = rdf.getElementsByTagNameNS(RDF, 'Description');
  for (let k = 0; k < descriptions.length; k++) {
    const description = descriptions.item(k)!;
    for (const name of outdated) drop(description, GPANO, name);
    // The second part of a packet too long for one segment is not carried along.
    drop(description, XMP_NOTE, 'HasExtendedXMP');
  }
  const own = root.ownerDocument!.createElementNS(RDF, 'rdf:Description');
  own.setAttributeNS(RDF, 'rdf:about', descriptions.item(0)?.getAttributeNS(RDF, 'about') ?? '');
  const { full, part } = placement;
  const tags: Record<string, string | number> = {
    UsePanoramaViewer: 'True',
    ProjectionType: 'equirectangular',
    FullPanoWidthPixels: full.width,
    FullPanoHeightPixels: full.height,
    CroppedAreaImageWidthPixels: part.width,
    CroppedAreaImageHeightPixels: part.height,
    CroppedAreaLeftPixels: part.x,
    CroppedAreaTopPixels: part.y,
  };
  for (const [name, value] of Object.entries(tags)) own.setAttributeNS(GPANO, `GPano:${name}`, String(value));
  rdf.appendChild(own);
  const text = new XMLSerializer().serializeToString(root);
  return `<?xpacket begin="\uFEFF" id="W5M0MpCehiHzreSzNTczkc9d"?>\n${text}\n<?xpacket end="w"?>`;
}

function drop(description: Element, namespace: string, name: string): void {
  description.removeAttributeNS(namespace, name);
  const elements = description.getElementsByTagNameNS(namespace, name);
  while (elements.length > 0) elements.item(0)!.parentNode!.removeChild(elements.item(0)!);
}

/** The root of a packet; undefined for what is no well-formed XML. */
function parsed(xmp: string): Element | undefined {
  try {
    return (
      new DOMParser({ onError: () => undefined }).parseFromString(xmp.trim(), 'text/xml').documentElement ?? undefined
    );
  } catch {
    return undefined;
  }
}
