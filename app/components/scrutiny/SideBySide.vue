<script setup lang="ts">
import { changesBetween } from '~~/core/finding/compare'
import type { Finding } from '~~/core/finding/finding'
import type { Dossier, ImageView } from '~~/shared/applications'

const { findingWords } = useWords().findings
const { verdictShapes } = useWords().work

/** What tells who somebody is, large and next to each other; of what was sent again, the version before beneath it and what changed. */
const props = defineProps<{ dossier: Dossier, /** Slots to be shown, in their order. */ slots: { id: string, title: string }[] }>()
defineEmits<{ close: [] }>()
const spelling = useSpelling()
/** How each picture is turned on the screen, to be read; nothing is changed by it. */
const turns = ref<Record<string, number>>({})
/** What stands on the sheet of what an identity paper says. */
const facts = computed(() =>
  ['certificateName', 'identityName', 'printedName', 'bornOn', 'identityKind', 'identityNumber'].filter(id =>
    id !== 'printedName' || props.dossier.answers[id]
  ).map(id => ({
    label: spelling.question(id)?.label ?? id,
    value: spelling.answer(id, props.dossier.answers[id]),
  }))
)
const before = shallowRef<Record<string, ImageView>>({})
const columns = computed(() => props.slots.map(slot => ({ ...slot, now: props.dossier.files[slot.id], then: before.value[slot.id] })))
const value = (finding: Finding | null) =>
  finding ? `${verdictShapes[finding.verdict]} ${findingWords(finding).value || findingWords(finding).title}` : say('scrutiny.notChecked')
const changes = (then: ImageView, now: ImageView) =>
  changesBetween(then.findings, now.findings).map(({ code, before: b, after: a }) => {
    const known = a ?? b
    return { code, title: known ? findingWords({ ...known, verdict: 'pass' }).title : code, from: value(b), to: value(a) }
  })
const sent = (one: ImageView) =>
  say('scrutiny.versionKb', { version: one.version, format: one.format.toUpperCase(), bytes: (one.bytes / 1024).toFixed(0) })

onMounted(() =>
  Promise.all(props.slots.map(async ({ id }) => {
    const now = props.dossier.files[id]
    if (!now || now.version < 2) return
    await attempt(async () => {
      const versions = await callApi<ImageView[]>(`/api/applications/${props.dossier.id}/images/${id}`)
      const then = versions.find(({ version }) => version < now.version)
      if (then) before.value = { ...before.value, [id]: then }
    })
  }))
)
</script>

<template>
  <ElDialog
    :model-value="true"
    :title="`${dossier.name}, ${dossier.number}`"
    width="min(1240px, 98vw)"
    top="2vh"
    append-to-body
    @close="$emit('close')"
  >
    <p class="facts">
      <span
        v-for="fact in facts"
        :key="fact.label"
      ><span class="soft">{{ fact.label }}:</span> {{ fact.value }}</span>
    </p>
    <div class="columns">
      <section
        v-for="{ id, title, now, then } in columns"
        :key="id"
      >
        <h3>{{ title }}</h3>
        <figure v-if="now?.measured">
          <img
            :src="`/api/images/${now.id}`"
            :alt="say('scrutiny.version', { title, version: now.version })"
            :style="{ rotate: `${turns[id] ?? 0}deg` }"
          >
          <figcaption class="soft small">
            <button
              type="button"
              class="press"
              @click="turns[id] = ((turns[id] ?? 0) + 90) % 360"
            >
              {{ say('scrutiny.turn') }}
            </button> · {{ sent(now) }} <template v-if="now.pages.length > 1">
              {{ say('scrutiny.page1Of', { pages: now.pages.length }) }}
            </template>
          </figcaption>
        </figure>
        <p
          v-else
          class="refusal"
        >
          {{ now ? say('scrutiny.keptBeingMeasured') : say('scrutiny.none') }}
        </p>
        <template v-if="now && then">
          <figure>
            <img
              :src="`/api/images/${then.id}`"
              :alt="say('scrutiny.versionBefore', { title, version: then.version })"
              class="then"
            >
            <figcaption class="soft small">
              {{ say('scrutiny.before', { then: sent(then) }) }}
            </figcaption>
          </figure>
          <table
            v-if="changes(then, now).length > 0"
            class="plain-table small"
          >
            <thead>
              <tr><th>{{ say('scrutiny.whatChanged') }}</th><th>{{ say('scrutiny.beforeColumn') }}</th><th>{{ say('scrutiny.now') }}</th></tr>
            </thead>
            <tbody>
              <tr
                v-for="change in changes(then, now)"
                :key="change.code"
              >
                <td>{{ change.title }}</td><td>{{ change.from }}</td><td>{{ change.to }}</td>
              </tr>
            </tbody>
          </table>
          <p
            v-else
            class="soft small"
          >
            {{ say('scrutiny.noCheckSaysOtherwiseOfOne') }}
          </p>
        </template>
      </section>
    </div>
  </ElDialog>
</template>

<style scoped>
.facts { display: flex; flex-wrap: wrap; gap: 2px 24px; margin-bottom: 12px; }
.columns {
  display: grid; grid-template-columns: repeat(auto-fit, minmax(280px, 1fr)); gap: 24px; align-items: start; max-height: 82vh;
  overflow-y: auto;
}
h3 { margin-bottom: 6px; }
figure { margin: 0 0 12px; }
img { display: block; width: 100%; max-height: 46vh; object-fit: contain; object-position: left top; }
.then { max-height: 26vh; }
</style>
