<script setup lang="ts">
import { computed, ref } from 'vue'
import { type Form, mostPictureBytes, mostPicturesBytes, Picture } from '@climber/contract'
import { slugOf } from '@climber/core'
import FileField from '../../kit/FileField.vue'
import TextField from '../../kit/TextField.vue'
import { useDraft } from './draft'

/** Pictures that travel with a form. */
const props = defineProps<{ form: Form; at: number }>()
const draft = useDraft()
const problem = ref('')
const bytesOf = ({ data }: { data: string }) => Math.round((data.length * 3) / 4)
const kilobytes = (bytes: number) => `${Math.max(1, Math.round(bytes / 1000))} kB`
const all = computed(() => (props.form.pictures ?? []).reduce((sum, one) => sum + bytesOf(one), 0))

const base64 = (file: File): Promise<string> =>
  new Promise((resolve, reject) => {
    const reader = new FileReader()
    reader.onload = () => resolve(String(reader.result).split(',')[1] ?? '')
    reader.onerror = () => reject(new Error(`${file.name} could not be read.`))
    reader.readAsDataURL(file)
  })
/** Whether the browser can draw it: a text that is named like a picture is none. */
const drawn = (type: string, data: string): Promise<boolean> =>
  new Promise((resolve) => {
    const image = new Image()
    image.onload = () => resolve(true)
    image.onerror = () => resolve(false)
    image.src = `data:${type};base64,${data}`
  })
async function add(file: File): Promise<void> {
  problem.value = ''
  if (file.size > mostPictureBytes) {
    problem.value = `${file.name} has ${kilobytes(file.size)}; a picture may have ${kilobytes(mostPictureBytes)}. Make it smaller, or crop it.`
    return
  }
  if (all.value + file.size > mostPicturesBytes) {
    problem.value = `With ${file.name} the pictures of this form would have ${kilobytes(all.value + file.size)}; they may have ${kilobytes(mostPicturesBytes)} together.`
    return
  }
  const { form } = props
  const pictures = form.pictures ?? []
  const id = slugOf(
    file.name.replace(/\.[a-z]+$/i, ''),
    pictures.map((one) => one.id),
  )
  try {
    const data = await base64(file)
    const read = Picture.safeParse({ id, type: file.type, data, alt: '' })
    if (!read.success || !(await drawn(file.type, data)))
      problem.value = `${file.name}: ${read.success ? 'the browser cannot draw this file' : read.error.issues[0]!.message}.`
    else form.pictures = [...pictures, read.data]
  } catch (error) {
    problem.value = (error as Error).message
  }
}
function remove(row: number): void {
  const { form } = props
  form.pictures?.splice(row, 1)
  if (!form.pictures?.length) delete form.pictures
}
/** How many texts show a picture. */
const uses = (id: string) => {
  const texts = [
    ...Object.values(props.form.items ?? {}).flatMap((items) =>
      items.flatMap(({ text = '', options = [] }) => [text, ...options]),
    ),
    ...(props.form.stimuli ?? []).map(({ text }) => text),
  ]
  return texts.filter((text) => text.includes(`picture:${id})`)).length
}
</script>

<template>
  <div class="stack">
    <FileField
      label="Add a picture"
      accept="image/png,image/jpeg,image/webp,image/svg+xml"
      :hint="`PNG, JPEG, WebP or SVG of at most ${kilobytes(mostPictureBytes)}; ${kilobytes(all)} of ${kilobytes(mostPicturesBytes)} are taken`"
      :errors="problem || undefined"
      @chosen="add"
    />
    <p v-if="!form.pictures?.length" class="small soft">
      No picture yet. A text shows one where it says ![what it shows](picture:its-name).
    </p>
    <div v-for="(picture, row) in form.pictures ?? []" :key="picture.id" class="picture">
      <img :src="`data:${picture.type};base64,${picture.data}`" :alt="picture.alt" />
      <div class="stack">
        <p class="small">
          <code>![{{ picture.alt || 'what it shows' }}](picture:{{ picture.id }})</code>
          <span class="soft"
            >&nbsp;{{ kilobytes(bytesOf(picture)) }}, in
            {{ uses(picture.id) === 1 ? '1 text' : `${uses(picture.id)} texts` }}</span
          >
        </p>
        <TextField
          v-model="picture.alt"
          :label="`${picture.id}: what it shows, for those who do not see it`"
          :errors="draft.within(`forms.${at}.pictures.${row}`).map(({ message }) => message)"
        />
        <v-btn class="justify-start" variant="text" :aria-label="`Remove ${picture.id}`" @click="remove(row)"
          >Remove</v-btn
        >
      </div>
    </div>
  </div>
</template>

<style scoped>
.picture {
  display: grid;
  grid-template-columns: 160px minmax(0, 1fr);
  gap: 16px;
  align-items: start;
}
.picture img {
  max-width: 160px;
  max-height: 120px;
  border: 1px solid var(--hair);
  background: #fff;
}
@media (max-width: 700px) {
  .picture {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
