<script setup lang="ts">
import type { HandoutView } from '~~/shared/notice'

/** Files to read beside the notice: laid out for everybody, replaced by a new version, and taken away. */
const { code } = defineProps<{ code: string }>()
const session = useSessionStore()
const spelling = useSpelling()
const rows = shallowRef<HandoutView[]>([])
const title = ref('')
const load = async () => {
  rows.value = await callApi<HandoutView[]>(`/api/cycles/${code}/handouts`)
}
const laidOut = computed(() => rows.value.filter(one => one.isLaidOut))
const earlier = (of: HandoutView) => rows.value.filter(one => one.title === of.title && one.version < of.version)
const address = (one: HandoutView) => `/api/cycles/${code}/handouts/${one.id}`
const { busy, refusal, send } = useSubmission()
const add = (file: File, under: string) =>
  send(async () => {
    await callApi(`/api/cycles/${code}/handouts`, { method: 'POST', bytes: file, query: { title: under.trim() } })
    title.value = ''
    await load()
  })
const takeOut = (one: HandoutView) =>
  send(async () => {
    await callApi(address(one), { method: 'DELETE' })
    await load()
  })
onMounted(() => attempt(load))
</script>

<template>
  <section>
    <h3>{{ say('notice.toRead') }}</h3>
    <p
      v-if="laidOut.length === 0"
      class="soft small"
    >
      {{ say('notice.nothingToRead') }}
    </p>
    <ul v-else>
      <li
        v-for="one in laidOut"
        :key="one.id"
      >
        <a
          :href="address(one)"
          target="_blank"
        >{{ one.title }}</a> <span class="soft small">{{ say('notice.handoutIs', { version: one.version, by: one.by, at: spelling.instant(one.at), kilobytes: Math.ceil(one.bytes / 1024) }) }}</span>
        <span
          v-if="earlier(one).length > 0"
          class="soft small"
        >{{ say('notice.earlierVersions') }} <template
          v-for="old in earlier(one)"
          :key="old.id"
        ><a
          :href="address(old)"
          target="_blank"
        >{{ old.version }}</a> </template></span>
        <span
          v-if="session.may('notice.amend')"
          class="ways"
        >
          <HouseFileButton
            :title="say('notice.newVersion')"
            :label="say('notice.newVersionOf', { title: one.title })"
            accept="application/pdf,.pdf"
            :busy="busy"
            @choose="file => add(file, one.title)"
          />
          <button
            class="press"
            :disabled="busy"
            @click="takeOut(one)"
          >
            {{ say('notice.takeAway') }}
          </button>
        </span>
      </li>
    </ul>
    <HouseAlert
      :text="refusal"
      kind="refusal"
    />
    <p
      v-if="session.may('notice.amend')"
      class="ways"
    >
      <ElInput
        v-model="title"
        :aria-label="say('notice.handoutTitle')"
        :placeholder="say('notice.handoutTitle')"
        maxlength="140"
        style="width: 240px"
      />
      <HouseFileButton
        v-if="title.trim()"
        :title="say('notice.layOut')"
        :label="say('notice.layOut')"
        accept="application/pdf,.pdf"
        :busy="busy"
        @choose="file => add(file, title)"
      />
    </p>
  </section>
</template>

<style scoped>
section { margin-top: 18px; }
ul { margin: 4px 0; padding-left: 18px; }
li { padding: 3px 0; }
.ways { display: flex; flex-wrap: wrap; gap: 6px 12px; align-items: center; padding: 4px 0; }
</style>
