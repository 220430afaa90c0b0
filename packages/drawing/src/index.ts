export { barPlaces, writtenBarSeconds } from './barPlaces.ts';
export { beadPoint, type BeatShare } from './beadPoint.ts';
export { DOT_GLYPH, meterGlyphs, noteGlyph, restGlyph, tupletFigures } from './glyphs.ts';
export { hopPath, hopPathsOf, pointOnHop } from './hopPaths.ts';
export { meterWidth, placedParts, rampWords } from './signShapes.ts';
export { placeSigns, SIGN_LANE_Y, TEMPO_SIZE } from './signs.ts';
