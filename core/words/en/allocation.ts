import type { Allocation } from '../../allocation/allocation'
import type { AllocationPolicy, PolicyKind } from '../../allocation/policy'
import type { PassedOver, Why } from '../../allocation/why'

export const policyTitles: Record<PolicyKind, string> = { 'best-fit': 'Best fit', 'first-come': 'First come', 'lottery': 'Lottery' }

/** What a policy does, in one sentence for people who choose one. */
export const policyWords: Record<PolicyKind, string> = {
  'best-fit': 'Everybody is placed together so that the total cost is the least there is. Being early decides only between equals.',
  'first-come': 'One after the other in the order of the time stamp: the best choice that is still open, else the nearest city with room.',
  'lottery': 'As first come, but in an order drawn from a published seed. Being early gives no advantage.',
}

const ordinals = ['first', 'second', 'third', 'fourth', 'fifth']
const ordinal = (choice: number) => ordinals[choice - 1] ?? `${choice}th`
const counted = (n: number, one: string, many: string) => `${n.toLocaleString('en-GB')} ${n === 1 ? one : many}`
const points = (n: number) => counted(n, 'point', 'points')

/** Why somebody is where they are, in paragraphs fit for a letter. `title` spells a city. */
export function whyWords(why: Why, title: (city: string) => string): string[] {
  const where = why.city === null
    ? 'No seat could be found for you: every city you could be sent to is full.'
    : why.choice === null
    ? `Your test city is ${title(why.city)}, ${why.km} km from your home city. It is not on your list.`
    : `Your test city is ${title(why.city)}, your ${ordinal(why.choice)} choice.`
  const moved = why.movedFrom ? [movedWords(why.movedFrom, title)] : []
  if (why.choice === 1) return [where, 'It is the city you asked for first.', ...moved]
  const measure = [...why.before, ...(why.movedFrom ? [why.movedFrom] : [])].some(p => p.why.by === 'stake')
    ? [
      'Seats went to those who would have lost most by going elsewhere. The loss is counted in points, by the costs that were published with the policy.',
    ]
    : []
  return [where, ...moved, ...measure, ...why.before.map(passed => passedWords(passed, title)), ...namedWords(why, title)]
}

/** Why somebody is where an officer put them. */
export const byHandWords = (city: string): string =>
  `Your test city is ${city}. It was set by hand by an officer, who gave a reason that is on record.`

/** Whose seats were counted, where people sit test papers. */
export const alikeWords = (papers: readonly string[]): string =>
  `You sit ${
    papers.join(', ')
  }. The seats and people named here are those of everybody who sits the same; other seats of a city are in sessions that you do not sit, or went to people who sit other papers.`

/** Of cities that somebody named: the seats kept for them, or for others. */
export function keptWords(
  { title, theirs, cities }: { title: string, theirs: boolean, cities: readonly { city: string, kept: number }[] },
  of: (city: string) => string,
): string {
  const list = cities.map(({ city, kept }) => `${counted(kept, 'seat', 'seats')} in ${of(city)}`).join(', ')
  return theirs
    ? `The notice keeps seats for some: “${title}”. You belong to them; with what is kept for you, ${list}, you stood before others.`
    : `The notice keeps seats for some: “${title}”. These are not counted here, as they were not open to you: ${list}.`
}

/** Why somebody who was told a city before does not stay there. */
function movedWords(passed: PassedOver, title: (city: string) => string): string {
  if (passed.why.by === 'stake' && passed.why.own >= passed.why.bar) {
    return `Before this you were told ${
      title(passed.city)
    }. You were moved so that all people together are better off; what it costs to move you was counted in.`
  }
  return `Before this you were told ${title(passed.city)}. ${passedWords({ ...passed, choice: 0 }, title)}`
}

function passedWords({ city, choice, seats, kind, why }: PassedOver, title: (city: string) => string): string {
  const name = choice === 0 ? title(city) : `${title(city)}, your ${ordinal(choice)} choice,`
  const have = `has ${
    counted(seats, kind === 'accessible' ? 'accessible seat' : 'seat', kind === 'accessible' ? 'accessible seats' : 'seats')
  }`
  switch (why.by) {
    case 'closed':
      return `${name} is not open to you under the notice.`
    case 'room':
      return `${name} had room when it was your turn; ask the office to look into this placement.`
    case 'turn':
      return why.own <= why.closedAt
        ? `${name} ${have}; they were kept for people who had been told that city before.`
        : `${name} ${have}. The last was taken by number ${why.closedAt.toLocaleString('en-GB')} in line; you were number ${
          why.own.toLocaleString('en-GB')
        }. ${
          counted(why.waiting, 'person', 'people')
        } who wanted it came too late. To be seated there you would have had to stand at number ${
          why.closedAt.toLocaleString('en-GB')
        } or earlier.`
    case 'stake':
      return stakeWords(`${name} ${have}`, why, seats)
  }
}

function stakeWords(start: string, { own, bar, ahead, alongside }: Extract<PassedOver['why'], { by: 'stake' }>, seats: number): string {
  if (seats === 0) return `${start}, so nobody could be placed there.`
  const standing = own < bar
    ? `A seat there went only to people with ${points(bar)} or more to lose; you had ${points(own)}.`
    : `You had ${points(own)} to lose, as much as the last people who got in; between equals the earlier applicant goes first.`
  const line = ahead + alongside === 0
    ? 'Nobody else stood before you.'
    : `${counted(ahead, 'person', 'people')} without a seat there stood before you${
      alongside > 0 ? ` and ${alongside.toLocaleString('en-GB')} beside you` : ''
    }.`
  const more = alongside > 0
    ? `between ${(ahead + 1).toLocaleString('en-GB')} and ${(ahead + alongside + 1).toLocaleString('en-GB')} more seats`
    : counted(ahead + 1, 'more seat', 'more seats')
  return `${start}. ${standing} ${line} By this line, ${more} there would have been needed for you.`
}

function namedWords({ hadTheyNamed, choice }: Why, title: (city: string) => string): string[] {
  if (choice !== null || hadTheyNamed.length === 0) return []
  const list = hadTheyNamed.map(({ city, km }) => `${title(city)} (${km} km)`)
  return [
    `${
      list.length === 1 ? `${list[0]} had seats` : `${list.slice(0, -1).join(', ')} and ${list.at(-1)} had seats`
    } to the end: had you named ${list.length === 1 ? 'it' : 'one of them'} as a further choice, you would have been placed there.`,
  ]
}

/** Which place somebody got, in few words. */
export function placeWords({ city, choice, km }: { city: string | null, choice: number | null, km: number | null }): string {
  return city === null ? 'no seat' : choice === null ? `off the list, ${km} km` : `choice ${choice}`
}

/** The costs of a policy, line by line. */
export function costWords({ choiceCosts, offListBase, kilometreCap, unseated }: AllocationPolicy): [string, string][] {
  return [
    ['choices in order', `${choiceCosts.join(', ')} points`],
    ['a city off the list', `${offListBase} points and 1 for each km from home, at most ${kilometreCap}`],
    ['no seat', points(unseated)],
  ]
}

/** What a run's proof says, in a sentence. */
export function standingWords({ standing, cost, bound }: { standing: Allocation['standing'], cost: number, bound: number }): string {
  const [spent, least] = [cost.toLocaleString('en-GB'), bound.toLocaleString('en-GB')]
  switch (standing) {
    case 'certified':
      return `Cost ${spent} points, proven bound ${least}: no placement of these people on these seats costs less.`
    case 'bounded':
      return `Cost ${spent} points, proven bound ${least}: people sit several test papers, and nothing cheaper is known. What might be saved at most is ${
        (cost - bound).toLocaleString('en-GB')
      } points.`
    case 'by policy':
      return `Cost ${spent} points, by the policy's order and within all seats. Placed together, the same people would cost ${least}.`
    case 'not certified':
      return `NOT CERTIFIED: cost ${spent} points, bound ${least}. This run must not be published.`
  }
}
