<script setup lang="ts">
import '~/words/later'
import type { ImageKind } from '~~/core/notice/schema'
import type { ImageRule } from '~~/core/notice/file-rules'

/** Takes a picture with the camera, with the outline of where head or paper should be. */
const props = defineProps<{ kind: ImageKind, rule: ImageRule }>()
const emit = defineEmits<{ taken: [picture: File], close: [] }>()
const video = ref<HTMLVideoElement | null>(null)
const trouble = ref('')
const ready = ref(false)
let stream: MediaStream | null = null

onMounted(async () => {
  try {
    stream = await navigator.mediaDevices.getUserMedia({
      audio: false,
      video: { facingMode: props.kind === 'photograph' ? 'user' : 'environment', width: { ideal: 1920 }, height: { ideal: 1440 } },
    })
    if (video.value) video.value.srcObject = stream
  } catch {
    trouble.value = say('coach.theCameraCannotBeUsedHere')
  }
})
onUnmounted(() => stream?.getTracks().forEach(track => track.stop()))

async function take() {
  const source = video.value
  if (!source) return
  const canvas = document.createElement('canvas')
  canvas.width = source.videoWidth
  canvas.height = source.videoHeight
  canvas.getContext('2d')?.drawImage(source, 0, 0)
  canvas.toBlob(
    (blob) => {
      if (blob) emit('taken', new File([blob], 'camera.jpg', { type: 'image/jpeg' }))
    },
    'image/jpeg',
    0.95,
  )
}
</script>

<template>
  <ElDialog
    :model-value="true"
    :title="say('coach.takeThe', { title: rule.title.toLowerCase() })"
    width="min(520px, 96vw)"
    append-to-body
    @close="emit('close')"
  >
    <HouseAlert
      v-if="trouble"
      :text="trouble"
      kind="attention"
    />
    <div
      v-else
      class="finder"
    >
      <video
        ref="video"
        autoplay
        playsinline
        muted
        :class="{ mirrored: kind === 'photograph' }"
        @loadedmetadata="ready = true"
      />
      <svg
        viewBox="0 0 400 300"
        aria-hidden="true"
      >
        <template v-if="kind === 'photograph'">
          <ellipse
            cx="200"
            cy="128"
            rx="54"
            ry="72"
          />
          <path d="M 92 300 C 96 232 150 224 172 212 M 308 300 C 304 232 250 224 228 212" />
          <path
            d="M 130 122 L 270 122"
            class="thin"
          />
        </template>
        <rect
          v-else
          x="50"
          y="95"
          width="300"
          height="110"
          rx="4"
        />
      </svg>
    </div>
    <p class="soft small hint">
      {{ kind === 'photograph' ? say('coach.headInTheOutlineEyesOn') : say('coach.thePaperAloneInTheFrame') }}
    </p>
    <template #footer>
      <HouseButton @click="emit('close')">
        {{ say('coach.leaveIt') }}
      </HouseButton>
      <HouseButton
        primary
        :disabled="!ready"
        @click="take"
      >
        {{ say('coach.takeIt') }}
      </HouseButton>
    </template>
  </ElDialog>
</template>

<style scoped>
.finder { position: relative; background: #000; aspect-ratio: 4 / 3; }
video { width: 100%; height: 100%; object-fit: cover; display: block; }
.mirrored { transform: scaleX(-1); }
svg { position: absolute; inset: 0; width: 100%; height: 100%; }
ellipse, path, rect { fill: none; stroke: #fff; stroke-width: 3; stroke-dasharray: 8 5; filter: drop-shadow(0 0 2px #000); }
.thin { stroke-width: 1.5; }
.hint { margin-top: 8px; }
</style>
