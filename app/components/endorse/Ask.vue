<script setup lang="ts">
import '~/words/later'
import type { Channel } from '~~/core/identity/address'

/** Names somebody, and sends them the link. */
const props = defineProps<{ rule: string, busy: boolean }>()
const emit = defineEmits<{ ask: [asked: { rule: string, name: string, channel: Channel, address: string }] }>()
const name = ref('')
const channel = ref<Channel>('email')
const address = ref('')
const id = useId()
const ask = () => emit('ask', { rule: props.rule, name: name.value.trim(), channel: channel.value, address: address.value.trim() })
</script>

<template>
  <form
    novalidate
    @submit.prevent="ask"
  >
    <label :for="`${id}-name`">{{ say('endorse.name') }}</label>
    <input
      :id="`${id}-name`"
      v-model="name"
      class="field"
      maxlength="140"
      autocomplete="off"
    >
    <FieldChoice
      v-model="channel"
      :options="[{ id: 'email', title: say('own.byEmail') }, { id: 'mobile', title: say('own.byMobile') }]"
      :label="say('endorse.channel')"
    />
    <label :for="`${id}-address`">{{ channel === 'email' ? say('endorse.email') : say('endorse.mobile') }}</label>
    <input
      :id="`${id}-address`"
      v-model="address"
      class="field"
      :type="channel === 'email' ? 'email' : 'tel'"
      autocomplete="off"
    >
    <HouseButton
      type="submit"
      :busy="busy"
      :disabled="name.trim().length < 2 || address.trim() === ''"
    >
      {{ say('endorse.ask') }}
    </HouseButton>
  </form>
</template>

<style scoped>
form { max-width: 420px; margin-top: 8px; display: flex; flex-direction: column; gap: 4px; align-items: stretch; }
form > label { font-size: 14px; font-weight: 600; }
.button { align-self: flex-start; margin-top: 8px; }
</style>
