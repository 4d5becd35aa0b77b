import { ExamFormat, nothingRecalled, recordFrom, Attempt } from '@climber/contract'
import { dayNumber } from '@climber/core'
import { Learner, estimateOf } from '../core/src/learner/learner'
import { prior } from '../core/src/learner/prior'
const exam = ExamFormat.parse({ title: 'X', sections: [{ id: 's', title: 'S', minutes: 40, groups: [{ id: 'g', kind: 'choice', items: 40, choices: 4, perRight: 1 }], conversion: { points: [[0,100],[40,200]] } }], topics: [{id:'t',title:'T',section:'s',share:1}], composite: {kind:'sum', step: 1}, sittings: [] })
const L = (x: number) => 1/(1+Math.exp(-x))
for (const [r,w,b] of [[0,0,0],[6,0,0],[0,6,0],[3,3,0],[10,0,0],[40,0,0],[20,0,20],[20,20,0],[30,10,0],[12,28,0],[38,2,0],[2,3,1]]) {
  const attempts = r!+w!+b! ? [Attempt.parse({ id: '00000000-0000-4000-8000-00000000d1a9', kind: 'diagnostic', date: '2031-03-03', counts: { groups: { g: { right: r, wrong: w, blank: b } } } })] : []
  const record = recordFrom({ exam, attempts, parts: {} })
  const learner = new Learner({ exam, attempts, ratings: record.ratings, recalled: nothingRecalled, sessions: [], taus: [5], today: dayNumber('2031-03-03') })
  const [e] = learner.exposures([dayNumber('2031-03-03')], false)
  const est = estimateOf(learner.known(e!)[0]!, learner.weights)
  const eb = estimateOf(learner.candidates.blanks, learner.weights)
  // exact
  const sdL = Math.sqrt(.9**2+.45**2+.75**2), sdD = Math.sqrt(prior.day.sd**2+prior.day.section**2)
  let W=0, M=0, V=0, B=0; const hist: [number, number][] = []
  for (let i=-60;i<=60;i++) { const z=i/15; const lev=-.2+sdL*z; let ww=0
    for (let d=-8;d<=8;d++) { const zd=d/2.5; const k=L(lev+sdD*zd)
      for (let q=-40;q<=40;q++) { const zb=q/10; const bl=L(prior.blanks.mean+prior.blanks.sd*zb)
        const pr=k+(1-k)*(1-bl)/4, pw=(1-k)*(1-bl)*.75, pb=(1-k)*bl
        const l=Math.exp(-z*z/2-zd*zd/2-zb*zb/2 + r!*Math.log(pr)+w!*Math.log(pw)+b!*Math.log(pb)); ww+=l; B+=l*bl } }
    const k=L(lev); W+=ww; M+=ww*k; V+=ww*k*k; hist.push([k,ww]) }
  let c=0; let lo=0, hi=1; for (const [k,ww] of hist) { c+=ww/W; if (c<.1) lo=k; if (c<.9) hi=k }
  console.log([r,w,b].join('/'), 'ens', est.mean.toFixed(3), est.sd.toFixed(3), est.low.toFixed(2), est.high.toFixed(2), '| exact', (M/W).toFixed(3), Math.sqrt(V/W-(M/W)**2).toFixed(3), lo.toFixed(2), hi.toFixed(2), '| b', eb.mean.toFixed(3), (B/W).toFixed(3), 'eff', learner.candidates.effective.toFixed(0))
}
