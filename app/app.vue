<script setup lang="ts">
// Another cycle is other work: every page of the office begins anew with it. A candidate's page finds its own cycle.
const cycle = useCycleStore()
const session = useSessionStore()
const work = computed(() => session.principal?.kind === 'staff' ? cycle.code ?? 'none' : 'own')
// A page that loads nothing of its own has its faces a moment later.
onMounted(() => setTimeout(() => askForFaces(), 4000))
useHead({ htmlAttrs: { lang: useWords().code } })
</script>

<template>
  <HouseMessages />
  <NuxtLayout>
    <NuxtPage :key="work" />
  </NuxtLayout>
</template>
