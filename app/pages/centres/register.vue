<script setup lang="ts">
import type { City } from '~~/core/notice/centre-schema'
import { usableSeats } from '~~/core/seating/rooms'
import type { Place, PlaceRoom } from '~~/shared/places'

/** The register of centres: every city on the map, its venues and rooms, and who has booked what of them. */
useHead({ title: titled(say('centres.register')) })
const cycle = useCycleStore()
const session = useSessionStore()
const route = useRoute()
const router = useRouter()
const places = shallowRef<Place[]>([])
const chosen = computed(() => places.value.find(place => place.code === route.query.city) ?? null)
const choose = (city: string) => router.replace({ query: city === route.query.city ? {} : { city } })
const load = async () => {
  places.value = await callApi<Place[]>('/api/centres/places')
}
const { failure } = useLoaded(load)

const bookingOf = (room: PlaceRoom, of: string | null) => room.bookings.find(booked => booked.cycle === of)
const roomsOf = (place: Place) => place.venues.flatMap(venue => venue.rooms)
const sumOf = (kind: 'seats' | 'stepFree') => (place: Place, of: string | null) =>
  roomsOf(place).reduce((n, room) => {
    const booked = bookingOf(room, of)
    return booked ? n + usableSeats(booked)[kind] : n
  }, 0)
const [seatsOf, stepFreeOf] = [sumOf('seats'), sumOf('stepFree')]
/** Discs as large as the most that any examination uses, filled as far as the one in work does. */
const most = (place: Place) => Math.max(0, ...places.value.length > 0 ? cycles.value.map(code => seatsOf(place, code)) : [])
const cycles = computed(() => [...new Set(places.value.flatMap(roomsOf).flatMap(room => room.bookings.map(booked => booked.cycle)))].sort())
const cities = computed(() => places.value.map(({ code, ...place }): City => ({ id: code, ...place, number: 1, venues: [] })))
const figures = computed(() =>
  places.value.map(place => ({ city: place.code, capacity: most(place), placed: seatsOf(place, cycle.code), firstChoice: 0 }))
)
const shown = computed(() => chosen.value ? [chosen.value] : places.value)
const total = computed(() => ({
  cities: places.value.length,
  venues: places.value.flatMap(place => place.venues).length,
  rooms: places.value.flatMap(roomsOf).length,
  seats: places.value.reduce((n, place) => n + seatsOf(place, cycle.code), 0),
  stepFree: places.value.reduce((n, place) => n + stepFreeOf(place, cycle.code), 0),
}))
const formats = ['csv', 'xlsx', 'ods', 'geojson'] as const
</script>

<template>
  <div class="page">
    <CentresAreas />
    <h1>{{ say('centres.register') }}</h1>
    <HouseAlert
      :text="failure"
      kind="refusal"
    />
    <template v-if="places.length > 0">
      <p class="soft">
        {{ say('centres.registerHolds', { ...total, cycle: cycle.code ?? '' }) }}
        <span class="small">{{ say('centres.registerAs') }} <template
          v-for="format in formats"
          :key="format"
        ><a
          :href="`/api/centres/table?format=${format}`"
          class="files"
          download
        >{{ say('centres.fileKind', { format }) }}</a> </template></span>
      </p>
      <div class="split">
        <div class="map">
          <CentresCityMap
            :cities="cities"
            :figures="figures"
            :chosen="chosen?.code ?? null"
            :said="(city, figure) => say('centres.discSays', { title: city.title, cycle: cycle.code ?? '', used: figure.placed, most: figure.capacity })"
            small
            @choose="choose"
          />
          <p class="soft small">
            {{ say('centres.discsAre', { cycle: cycle.code ?? '' }) }}
          </p>
        </div>
        <div>
          <p
            v-if="chosen"
            class="small"
          >
            <button
              class="press"
              @click="choose(chosen.code)"
            >
              {{ say('centres.wholeRegister') }}
            </button>
          </p>
          <HouseTable
            v-else
            :columns="[
              { key: 'city', title: say('centres.city') },
              { key: 'island', title: say('centres.island'), text: place => place.island },
              { key: 'venues', title: say('centres.venuesColumn'), kind: 'number', text: place => place.venues.length },
              {
                key: 'seats',
                title: say('centres.seatsOfCycle', { cycle: cycle.code ?? '' }),
                kind: 'number',
                text: place => countText(seatsOf(place, cycle.code)),
              },
              { key: 'stepFree', title: say('centres.stepFreeColumn'), kind: 'number', text: place => countText(stepFreeOf(place, cycle.code)) },
            ]"
            :rows="places"
            :row-key="place => place.code"
          >
            <template #city="{ row: place }">
              <button
                class="press"
                @click="choose(place.code)"
              >
                {{ place.title }}
              </button>
            </template>
          </HouseTable>
          <template v-if="chosen">
            <section
              v-for="place in shown"
              :key="place.code"
            >
              <h2>{{ place.title }} <span class="soft small">{{ say('centres.cityFacts', { island: place.island, lat: String(place.lat), lon: String(place.lon), prefix: place.postalPrefix }) }}</span></h2>
              <CentresVenue
                v-for="venue in place.venues"
                :key="venue.code"
                :venue="venue"
                @changed="attempt(load)"
              />
            </section>
          </template>
        </div>
      </div>
      <LazyCentresRegisterFile
        v-if="session.may('notice.amend') && cycle.code"
        @entered="attempt(load)"
      />
    </template>
  </div>
</template>

<style scoped>
.split { display: grid; grid-template-columns: minmax(320px, 1fr) minmax(360px, 1fr); gap: 28px; align-items: start; }
.map { position: sticky; top: 12px; }
.files { margin-left: 10px; }
@media (max-width: 900px) { .split { grid-template-columns: 1fr; } .map { position: static; } }
h2 { font-size: 19px; margin: 6px 0; }
</style>
