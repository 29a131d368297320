import { Catalogue } from '../../../core/search/catalogue/catalogue'
import { Vectors } from '../../../core/search/catalogue/vectors'
import { countFolders } from '../../../core/search/catalogue/folders'
import { schema, type Database } from '../../db/open'
import type { Search } from '../../../contract/searches'
import type { FinderAnswers, FinderAsk, States } from './protocol'
import { readSearch, Results, soundOf } from './results'
import { readSnapshot, writeSnapshot } from './snapshot'
import { changedSounds, nextVectors, sameRecording, someChangedSounds, strokesOfFamily, usedSounds, type ChangedSounds } from './rows'

/** Fewer changes than these are read from the database in no time. */
const WORTH_WRITING = 5000

/**
 * Keeps the catalogue in step with the database and answers from it. Runs in a thread of its own. What was changed by hand, and a
 * scan that has ended, are seen by the next question; what a scan has brought that goes on is taken over behind the answers,
 * since it would make each of them wait for the database, which has its hands full then.
 */
export class Finder {
  private readonly catalogue = new Catalogue()
  private readonly vectors = new Vectors()
  private readonly results = new Results(this.catalogue, this.vectors)
  private soundsAt = -1
  private vectorsAt = -1
  private libraryAt = -1
  private arrivalsAt = -1
  private usesAt = -1
  private last: Promise<unknown> = Promise.resolve()
  private isReadingArrivals = false

  /** How many sounds have changed since the catalogue was written down. */
  private changedSince = 0
  private isEmpty = true

  constructor(private readonly db: Database, private readonly cacheDir: string) {}

  /** Answers one question after the other: each first takes over what has changed. */
  answer<K extends keyof FinderAnswers>(ask: FinderAsk & { readonly type: K }): Promise<FinderAnswers[K]> {
    const answered = this.inOrder(() => this.now(ask))
    // Where it fails, so will the next question that has to see everything, and say so.
    void answered.then(() => this.followArrivals(ask.arrivals)).catch(() => undefined)
    return answered as Promise<FinderAnswers[K]>
  }

  private inOrder<T>(work: () => T | Promise<T>): Promise<T> {
    const done = this.last.then(work)
    this.last = done.catch(() => undefined)
    return done
  }

  private async now(ask: FinderAsk): Promise<FinderAnswers[keyof FinderAnswers]> {
    await this.follow(ask)
    switch (ask.type) {
      case 'warm':
        return this.warm()
      case 'page': {
        const result = await this.find(ask.search)
        return { total: result.slots.length, counts: result.found.counts, ...this.results.window(result, ask.offset, ask.limit) }
      }
      case 'facets':
        return this.results.facets(await this.find(ask.search))
      case 'place':
        return this.results.placeOf(await this.find(ask.search), ask.id)
      case 'ids':
        return this.results.idsOf(await this.find(ask.search), ask.stretches)
      case 'count':
        return (await this.find(ask.search)).slots.length
      case 'folders':
        return countFolders(this.catalogue, (await this.find(ask.search)).slots, ask.under)
      case 'drop': {
        const { vectorOfFile } = await import('./dropped')
        return this.results.probe(await vectorOfFile(ask.bytes))
      }
    }
  }

  private async find(search: Search) {
    const { query } = readSearch(search)
    if (soundOf(query, 'like') !== undefined) await this.followVectors()
    const same = soundOf(query, 'same')
    const family = soundOf(query, 'family')
    const related = {
      same: same === undefined ? [] : await sameRecording(this.db, Number(same)),
      family: family === undefined ? [] : await strokesOfFamily(this.db, Number(family)),
    }
    return this.results.result(search, by => related[by])
  }

  private async follow({ library, arrivals, uses }: States): Promise<void> {
    if (library !== this.libraryAt) {
      this.catalogue.setSources(await this.sourceNames())
      if (this.isEmpty) await this.takeUp()
      for await (const part of changedSounds(this.db, this.soundsAt)) this.take(part)
      this.libraryAt = library
      this.arrivalsAt = arrivals
      this.usesAt = -1
    }
    if (uses === this.usesAt) return
    this.catalogue.setUsed(await usedSounds(this.db))
    this.usesAt = uses
  }

  /** Reads one part of what has come while nobody waits, and takes it over between two answers. */
  private async followArrivals(arrivals: number): Promise<void> {
    if (arrivals === this.arrivalsAt || this.isReadingArrivals) return
    this.isReadingArrivals = true
    try {
      const { soundsAt, libraryAt, usesAt } = this
      const names = await this.sourceNames()
      const part = await someChangedSounds(this.db, soundsAt)
      const used = await usedSounds(this.db)
      await this.inOrder(() => {
        // What was read may be older than what a question has made be read meanwhile.
        if (this.soundsAt !== soundsAt || this.libraryAt !== libraryAt || this.usesAt !== usesAt) return
        this.catalogue.setSources(names)
        if (part) this.take(part)
        this.catalogue.setUsed(used)
        this.arrivalsAt = arrivals
      })
    }
    finally {
      this.isReadingArrivals = false
    }
  }

  private take({ rows, revision }: ChangedSounds): void {
    this.catalogue.apply(rows)
    this.soundsAt = revision
    this.changedSince += rows.length
  }

  private async sourceNames(): Promise<Map<number, string>> {
    const sources = await this.db.select({ id: schema.sources.id, name: schema.sources.name }).from(schema.sources)
    return new Map(sources.map(source => [source.id, source.name]))
  }

  private async takeUp(): Promise<void> {
    this.isEmpty = false
    const snapshot = await readSnapshot(this.cacheDir, this.db)
    if (!snapshot) return
    this.catalogue.restore(snapshot.catalogue)
    this.vectors.restore(snapshot.vectors)
    this.soundsAt = this.vectorsAt = snapshot.revision
  }

  private async writeDown(): Promise<void> {
    await writeSnapshot(this.cacheDir, this.db, this.soundsAt, { catalogue: this.catalogue.save(), vectors: this.vectors.save() })
    this.changedSince = 0
  }

  /** One step towards having everything ready, so that questions need not wait for all of it. Gives false when nothing is left to do. */
  private async warm(): Promise<boolean> {
    if (await this.takeVectors()) return true
    if (this.changedSince >= WORTH_WRITING) await this.writeDown()
    return false
  }

  private async followVectors(): Promise<void> {
    while (await this.takeVectors());
  }

  /** Takes one part of the vectors that have changed; gives false when there are none. */
  private async takeVectors(): Promise<boolean> {
    if (this.vectorsAt >= this.soundsAt) return false
    const part = await nextVectors(this.db, this.vectorsAt)
    for (const { id, vector } of part?.vectors ?? []) {
      const slot = this.catalogue.slotOf(id)
      if (slot !== undefined) this.vectors.set(slot, vector)
    }
    if (part) {
      this.vectorsAt = part.revision
      return true
    }
    this.vectorsAt = this.soundsAt
    return false
  }
}
