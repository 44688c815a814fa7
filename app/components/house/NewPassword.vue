<script setup lang="ts">
/** A new password, typed twice; both lie with the form, which asks whether they are the same. */
defineProps<{ label: string, autofocus?: boolean }>()
const password = defineModel<string>({ required: true })
const again = defineModel<string>('again', { required: true })
</script>

<template>
  <div>
    <label for="new-password">{{ label }}</label>
    <ElInput
      id="new-password"
      v-model="password"
      type="password"
      autocomplete="new-password"
      show-password
      :autofocus="autofocus"
    />
    <p class="soft small">
      {{ say('account.n15CharactersOrMoreSeveralWords') }}
    </p>
    <label for="new-password-again">{{ say('account.theSameAgain') }}</label>
    <ElInput
      id="new-password-again"
      v-model="again"
      type="password"
      autocomplete="new-password"
    />
    <p
      v-if="again && again !== password"
      class="refusal small"
    >
      {{ say('account.theTwoAreNotTheSame') }}
    </p>
  </div>
</template>

<style scoped>
label { display: block; font-weight: 600; margin: 12px 0 4px; }
</style>
