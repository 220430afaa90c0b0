import { howMany, MAX_BARS, readPiece, writePiece, type PieceDocument } from '@anchorbeat/core';
import { refusedFile, type FileReading, type OnProgress } from '../format.ts';
import { NoteTaker } from '../notes.ts';
import { readGenerously } from '../readGenerously.ts';
import { assemble, ScoreProblem, type ScorePart } from './assemble.ts';
import { withUnsaid } from './unsaid.ts';
import { firstState, readMeasure, type PartMeasure, type PartState } from './measure.ts';
import { scoreText } from './openBytes.ts';
import {
  child,
  childrenOf,
  childText,
  readXml,
  XmlProblem,
  type OpenElement,
  type XmlElement,
} from './xmlTree.ts';

const MOST_PARTS = 500;
const MOST_MEASURES = 400_000;
const HEAD = ['work', 'movement-title', 'identification', 'defaults', 'part-list'];
const MOST_CREDITS = 100;

/** Reads MusicXML, plain or compressed, part by part or bar by bar. */
export function readMusicXml(bytes: Uint8Array, onProgress?: OnProgress): FileReading {
  const notes = new NoteTaker();
  try {
    const score = new ScoreReader(notes);
    readXml(
      scoreText(bytes, notes),
      (name, path) => score.isWanted(name, path),
      (element, path) => score.take(element, path),
      onProgress,
    );
    return score.reading();
  } catch (error) {
    if (error instanceof ScoreProblem) return refusedFile(error.message, error.bar);
    if (error instanceof XmlProblem) return refusedFile(error.message);
    throw error;
  }
}

/** Takes the elements of a score as they come and keeps only what is needed of each. */
class ScoreReader {
  private readonly head = new Map<string, XmlElement>();
  /** What is printed on the page, by what it is: "title", "composer". */
  private readonly credits = new Map<string, string>();
  private readonly parts = new Map<string, { readonly measures: PartMeasure[]; readonly state: PartState }>();
  private isScore = false;
  private measureCount = 0;

  constructor(private readonly notes: NoteTaker) {}

  isWanted(name: string, path: readonly OpenElement[]): boolean {
    const root = path[0]?.name;
    if (path.length === 0) {
      this.isScore = name === 'score-partwise' || name === 'score-timewise';
      if (!this.isScore)
        throw new XmlProblem(`This is XML, but no score: it begins with <${name.slice(0, 40)}>`);
      return false;
    }
    if (path.length === 1) return HEAD.includes(name) || name === 'credit';
    const inner = root === 'score-partwise' ? ['part', 'measure'] : ['measure', 'part'];
    return path.length === 2 && path[1]?.name === inner[0] && name === inner[1];
  }

  take(element: XmlElement, path: readonly OpenElement[]): void {
    if (path.length === 1) {
      if (element.name === 'credit') this.credit(element);
      else if (!this.head.has(element.name)) this.head.set(element.name, element);
      return;
    }
    if (++this.measureCount > MOST_MEASURES) throw new XmlProblem('There are more bars than any score has');
    const isPartwise = element.name === 'measure';
    const partId = (isPartwise ? path[1] : element)?.attributes['id'] ?? '';
    const measure = isPartwise ? element : { ...element, attributes: path[1]?.attributes ?? {} };
    const part = this.parts.get(partId) ?? { measures: [], state: firstState(this.isAsItSounds()) };
    this.parts.set(partId, part);
    if (this.parts.size > MOST_PARTS) throw new XmlProblem('There are more parts than any score has');
    if (part.measures.length >= MAX_BARS)
      throw new XmlProblem(`There are more than ${MAX_BARS} bars in a part, which is the most a piece holds`);
    part.measures.push(this.readOne(measure, part.state));
  }

  private isAsItSounds(): boolean {
    return child(this.head.get('defaults'), 'concert-score') !== undefined;
  }

  private credit(credit: XmlElement): void {
    const words = childrenOf(credit, 'credit-words').map(({ text }) => text);
    const line = words.join(' ').replace(/\s+/g, ' ').trim();
    for (const { text } of childrenOf(credit, 'credit-type')) {
      const type = text.trim().toLowerCase();
      if (line && this.credits.size < MOST_CREDITS && !this.credits.has(type)) this.credits.set(type, line);
    }
  }

  /** A bar whose numbers run out of all bounds is kept as an empty one, and told. */
  private readOne(measure: XmlElement, state: PartState): PartMeasure {
    try {
      return readMeasure(measure, state);
    } catch (error) {
      if (!(error instanceof RangeError)) throw error;
      const number = (measure.attributes['number'] ?? '').slice(0, 20);
      this.notes.leftOut('the notes of a bar: their lengths are finer than can be reckoned', number);
      return readMeasure({ ...measure, children: [] }, state);
    }
  }

  reading(): FileReading {
    if (!this.isScore) throw new XmlProblem('This is no score');
    const names = partNames(this.head.get('part-list'));
    const parts = [...this.parts].map(([id, { measures }]): ScorePart => ({
      name: names.get(id) ?? id,
      measures,
    }));
    if (parts.every(({ measures }) => measures.length === 0))
      throw new XmlProblem('There are no bars in this score');
    const { bars, sections, key, takesRepeatsAfterJump, read } = assemble(parts, this.notes);
    const document: PieceDocument = {
      format: 'anchorbeat-piece',
      version: 1,
      title: this.title(),
      ...this.creators(),
      ...(key !== null && { key }),
      ...(takesRepeatsAfterJump && { takesRepeatsAfterJump: true as const }),
      ...(sections.length > 0 && { sections }),
      bars,
    };
    const plain = readGenerously(document, this.notes);
    if (!plain.ok) return plain;
    const said = withUnsaid(writePiece(plain.piece), this.head.get('identification'));
    const whole = said.taken > 0 ? readPiece(said.document) : plain;
    const reading = whole.ok ? whole : plain;
    const kept = whole.ok && said.taken > 0 ? [`${howMany(said.taken, 'detail')} kept from Anchorbeat`] : [];
    return { ok: true, piece: reading.piece, notes: this.notes.notes([...read, ...kept]) };
  }

  private title(): string {
    const work = childText(this.head.get('work'), 'work-title');
    const movement = this.head.get('movement-title')?.text.trim() ?? '';
    const printed = this.credits.get('title') ?? '';
    return (work || movement || printed || 'Untitled piece').replace(/\s+/g, ' ').slice(0, 200);
  }

  private creators(): Pick<PieceDocument, 'subtitle' | 'composer'> {
    const work = childText(this.head.get('work'), 'work-title');
    const movement = this.head.get('movement-title')?.text.replace(/\s+/g, ' ').trim() ?? '';
    const subtitle = work !== '' && movement !== work && movement ? movement : this.credits.get('subtitle');
    const creators = childrenOf(this.head.get('identification'), 'creator');
    const named = creators.find(({ attributes }) => attributes['type'] === 'composer') ?? creators[0];
    const composer = named?.text.trim() || this.credits.get('composer');
    const line = composer?.replace(/\s+/g, ' ').trim().slice(0, 200);
    return {
      ...(subtitle && { subtitle: subtitle.slice(0, 200) }),
      ...(line && { composer: line }),
    };
  }
}

function partNames(list: XmlElement | undefined): ReadonlyMap<string, string> {
  return new Map(
    childrenOf(list, 'score-part').map((part) => [
      part.attributes['id'] ?? '',
      (child(part, 'part-name')?.text ?? '').trim(),
    ]),
  );
}
