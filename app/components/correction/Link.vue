<script setup lang="ts">
import { correctionsOpen } from '~~/core/application/corrections'
import type { Dossier } from '~~/shared/applications'

/** The way from a form that was submitted to its correction, where there is one or one may be begun. */
const props = defineProps<{ dossier: Dossier, own?: boolean }>()
const cycle = useCycleStore()
const session = useSessionStore()
const to = computed(() => props.own ? `/own/correct/${props.dossier.id}` : `/intake/correct/${props.dossier.id}`)
const mayBegin = computed(() =>
  props.dossier.tracks.form === 'submitted' && props.dossier.tracks.scrutiny !== 'refused' && cycle.notice !== null && (props.own
    ? correctionsOpen(cycle.notice, { kind: 'candidate' }, new Date()).length > 0
    : session.may('dates.override'))
)
</script>

<template>
  <NuxtLink
    v-if="dossier.correction || mayBegin"
    :to="to"
  >
    {{ dossier.correction === 'drafting' ? say('own.goOnCorrecting') : dossier.correction ? say('own.lookAtCorrection') : say('own.correctSomething') }}
  </NuxtLink>
</template>
