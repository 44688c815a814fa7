<script setup lang="ts">
import type { Relation } from '~~/core/access/permissions'
import type { Dossier } from '~~/shared/applications'

/** What stands below the form: questions to the office, whatever else can be done, the form on paper, and for the office its history. */
const props = defineProps<{ dossier: Dossier, items: { id: string, title: string }[], own?: boolean }>()
const emit = defineEmits<{ changed: [dossier: Dossier], gone: [] }>()
const session = useSessionStore()
const cycle = useCycleStore()
const relations: Relation[] = props.own ? ['own application'] : []
const asking = ref(false)
const showsTexts = ref(false)
const mayAsk = computed(() => session.may('questions.ask', relations))
</script>

<template>
  <LazySheetQuestions
    v-if="dossier.hasQuestions || asking"
    :application-id="dossier.id"
    :may-ask="mayAsk"
  />
  <div class="sheet-row head rest">
    <div class="body">
      <p class="links">
        <button
          v-if="mayAsk && !dossier.hasQuestions && !asking"
          type="button"
          class="press"
          @click="asking = true"
        >
          {{ say('sheet.askTheOffice') }}
        </button>
        <a
          :href="`/api/applications/${dossier.id}/form`"
          target="_blank"
        >{{ say('sheet.formOnPaper') }}</a>
        <button
          v-if="dossier.submittedAt"
          type="button"
          class="press"
          :aria-expanded="showsTexts"
          @click="showsTexts = !showsTexts"
        >
          {{ say('sheet.acceptedTexts') }}
        </button>
        <NuxtLink
          v-if="!own && dossier.hasAccount && session.may('applications.look-as')"
          :to="`/intake/as/${dossier.id}`"
        >{{ say('letters.asCandidate') }}</NuxtLink>
      </p>
      <LazySheetAccepted
        v-if="showsTexts"
        :id="dossier.id"
      />
      <LazySheetLetters
        v-if="own && dossier.submittedAt && cycle.notice"
        :id="dossier.id"
        :zone="cycle.notice.body.zone"
      />
      <ActMenu
        :dossier="dossier"
        :items="items"
        @changed="emit('changed', $event)"
        @gone="emit('gone')"
      />
      <template v-if="!own">
        <h2 class="section-title">
          {{ say('letters.told') }}
        </h2>
        <LazyActTold
          :told="dossier.told"
          :has-account="dossier.hasAccount"
        />
        <h2 class="section-title">
          {{ say('sheet.history') }}
        </h2>
        <LazyHouseHistoryList :history="dossier.history" />
      </template>
    </div>
    <div class="beside" />
  </div>
</template>

<style scoped>
.links { display: flex; flex-wrap: wrap; gap: 4px 24px; margin-bottom: 16px; }
.rest { flex: 1; }
.rest > .body { padding-bottom: 32px; }
</style>
