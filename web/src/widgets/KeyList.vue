<script setup lang="ts">
const open = defineModel<boolean>({ required: true })
const keys: [string, string][] = [
  ['?', 'This list'],
  [
    'g then t, p, i, r, c, a, n, s, y, d, w, e, u',
    'Today, Plan, sIt, Review, reCall, pAcing, guessiNg, Scores, what tests saY, topics (the Diagnosis), gap (What it takes), Exam day, set-Up',
  ],
  ['Arrow keys', 'Plan: from session to session. Week painter: from half-hour to half-hour'],
  [
    'm',
    'Plan: move the session; arrows by a quarter of an hour and by days, Enter puts it down, Esc does not',
  ],
  ['+ and -', 'Plan: longer, shorter'],
  ['i', 'Plan: pin it, or let it go again'],
  ['x', 'Plan: lift it out, into the tray'],
  ['Ctrl z, Ctrl Shift z', 'Plan: undo, and do again'],
  ['Space', 'Week painter: free or not; with Shift and an arrow key, paint along'],
  ['Arrow keys', 'Guessing: from cell to cell of the table'],
  ['In a test', 'its menu lists its own keys'],
  ['y and n', 'Guessing trainer: answer them, leave them'],
  ['Space, 1 to 4, u, Esc', 'Recall: show it, how it came back, undo, end'],
  ['n', 'Recall, cards: a new one'],
  ['Space, l, Backspace', 'Drill: answered, left it, back'],
  ['Left, Right', 'Horizon: move the weeks shown'],
  ['Esc', 'Close what is open'],
]
</script>

<template>
  <v-dialog v-model="open" max-width="560" aria-labelledby="keys-title">
    <v-card class="pa-5">
      <h2 id="keys-title">Keys</h2>
      <table class="lines mt-3">
        <tbody>
          <tr v-for="[key, what] in keys" :key="key">
            <th scope="row">
              <kbd>{{ key }}</kbd>
            </th>
            <td>{{ what }}</td>
          </tr>
        </tbody>
      </table>
      <div class="mt-4"><v-btn @click="open = false">Close</v-btn></div>
    </v-card>
  </v-dialog>
</template>
