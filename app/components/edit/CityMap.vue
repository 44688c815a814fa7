<script setup lang="ts">
import type { City } from '~~/core/notice/centre-schema'
import { capacityOfCity } from '~~/core/seating/seats'
import { cityWithNumber } from '~~/shared/notice'

/** The cities of the notice and those of the register on one map; pressing one that the notice does not have takes it in. */
const { draft } = useNoticeEditor()
type Named = Partial<City>
const named = computed((): Named[] => {
  const held = (draft.document.value as { cities?: unknown } | null)?.cities
  return Array.isArray(held) ? held as Named[] : []
})
const register = computed(() => draft.detail.value?.register ?? [])
const isPlace = (city: Named): city is City => typeof city.id === 'string' && Number.isFinite(city.lat) && Number.isFinite(city.lon)
/** As the notice describes them, or, where it only names them, as the register does. */
const cities = computed(() => {
  const own = named.value.map(city => ({ ...register.value.find(known => known.id === city.id), ...city }))
  const others = register.value.filter(known => !named.value.some(city => city.id === known.id)).map(known => ({ ...known, number: 0 }))
  return [...own, ...others].filter(isPlace).map((city): City => ({
    ...city,
    title: city.title ?? city.id,
    venues: Array.isArray(city.venues) ? city.venues : [],
  }))
})
const isIn = (id: string) => named.value.some(city => city.id === id)
const seatsOf = (city: City) => {
  const rooms = city.venues.every(venue => Array.isArray(venue.rooms) && venue.rooms.every(room => Number.isFinite(room.seats)))
  return rooms ? capacityOfCity(city, draft.readable.value.sessions).capacity : 0
}
const figures = computed(() =>
  cities.value.map((city) => {
    const seats = seatsOf(city)
    return { city: city.id, capacity: seats, placed: isIn(city.id) ? seats : 0, firstChoice: 0 }
  })
)
function choose(id: string) {
  const known = register.value.find(city => city.id === id)
  if (known && !isIn(id)) draft.set('/cities', [...named.value, cityWithNumber(known, named.value)])
}
</script>

<template>
  <div v-if="cities.length > 1">
    <CentresCityMap
      :cities="cities"
      :figures="figures"
      :chosen="null"
      :said="(city, figure) => say('edit.cityOnMap', { title: city.title, isIn: String(isIn(city.id)), seats: figure.capacity })"
      small
      @choose="choose"
    />
    <p class="soft small">
      {{ say('edit.mapOfCities') }}
    </p>
  </div>
</template>

<style scoped>
div { max-width: 560px; margin: 4px 0 16px; }
</style>
