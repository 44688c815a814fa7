<script setup lang="ts">
import type { RosterView } from '~~/shared/applications'

/** Questions to the roster kept under a name, and a way to keep the present one. */
const props = defineProps<{ query: string }>()
const emit = defineEmits<{ choose: [query: string] }>()
const cycle = useCycleStore()
const views = shallowRef<RosterView[]>([])
const title = ref('')
const isShared = ref(false)
async function load() {
  await attempt(async () => {
    views.value = await callApi<RosterView[]>(cycle.path('roster/views'))
  })
}
async function keep() {
  const kept = title.value.trim()
  if (!kept) return
  const known = views.value.find(view => view.isOwn && view.title === kept)
  const good = await attempt(() =>
    callApi(cycle.path(`roster/views/${known?.id ?? crypto.randomUUID()}`), {
      method: 'PUT',
      body: { title: kept, query: props.query, isShared: isShared.value },
    })
  )
  // A name that was not kept stays, to be kept once more.
  if (!good) return
  title.value = ''
  await load()
}
async function forget(id: string) {
  await attempt(() => callApi(cycle.path(`roster/views/${id}`), { method: 'DELETE' }))
  await load()
}
</script>

<template>
  <ElPopover
    trigger="click"
    width="340"
    @show="load"
  >
    <template #reference>
      <ElButton>{{ say('roster.kept') }}</ElButton>
    </template>
    <p
      v-if="views.length === 0"
      class="soft small"
    >
      {{ say('roster.noKeptLists') }}
    </p>
    <ul>
      <li
        v-for="view in views"
        :key="view.id"
      >
        <button
          type="button"
          class="press"
          @click="emit('choose', view.query)"
        >
          {{ view.title }}
        </button>
        <span
          v-if="!view.isOwn"
          class="soft small"
        >{{ say('roster.keptBy', { by: view.by }) }}</span>
        <button
          v-else
          type="button"
          class="press small"
          :aria-label="say('roster.forget', { title: view.title })"
          @click="forget(view.id)"
        >
          ✕
        </button>
      </li>
    </ul>
    <form @submit.prevent="keep">
      <input
        v-model="title"
        class="field"
        maxlength="80"
        :placeholder="say('roster.nameOfTheList')"
        :aria-label="say('roster.nameOfTheList')"
      >
      <ElButton
        native-type="submit"
        :disabled="!title.trim()"
      >
        {{ say('roster.keep') }}
      </ElButton>
      <ElCheckbox v-model="isShared">
        {{ say('roster.forTheOffice') }}
      </ElCheckbox>
    </form>
  </ElPopover>
</template>

<style scoped>
ul { list-style: none; margin: 0 0 8px; padding: 0; }
li { display: flex; justify-content: space-between; gap: 8px; padding: 4px 0; }
form { display: flex; flex-wrap: wrap; gap: 8px; border-top: 1px solid var(--line); padding-top: 10px; }
.field { flex: 1; min-width: 0; }
</style>
