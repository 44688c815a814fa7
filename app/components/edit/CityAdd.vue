<script setup lang="ts">
import { valueAt } from '~~/core/notice/finding'
import { cityWithNumber, type RegisteredCity } from '~~/shared/notice'

/** Takes a city of the register into the notice with its venues, rooms and the seats that they had last. */
const props = defineProps<{ at: string }>()
const { draft } = useNoticeEditor()
const register = shallowRef<RegisteredCity[]>([])
const chosen = ref('')
const there = computed(() => {
  const held = valueAt(draft.document.value, props.at)
  return Array.isArray(held) ? held as { id?: unknown, number?: unknown }[] : []
})
const free = computed(() => register.value.filter(city => !there.value.some(({ id }) => id === city.id)))

function add(cities: readonly RegisteredCity[]) {
  const list: { id?: unknown, number?: unknown }[] = [...there.value]
  for (const city of cities) list.push(cityWithNumber(city, list))
  draft.set(props.at, list)
  chosen.value = ''
}
onMounted(() =>
  attempt(async () => {
    register.value = await callApi<RegisteredCity[]>('/api/centres')
  })
)
</script>

<template>
  <p
    v-if="free.length > 0"
    class="add"
  >
    <ElSelect
      v-model="chosen"
      filterable
      :placeholder="say('edit.cityOfTheRegister')"
      :aria-label="say('edit.cityOfTheRegister')"
      style="width: 240px"
      @update:model-value="(code: string) => add(free.filter(city => city.id === code))"
    >
      <ElOption
        v-for="city in free"
        :key="city.id"
        :value="city.id"
        :label="city.title"
      />
    </ElSelect>
    <button
      class="press small"
      @click="add(free)"
    >
      {{ say('edit.allOfTheRegister', { n: free.length }) }}
    </button>
  </p>
</template>

<style scoped>
.add { display: flex; flex-wrap: wrap; gap: 8px 14px; align-items: center; padding: 8px 0; }
</style>
