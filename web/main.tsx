import '@fontsource-variable/literata/index.css'
import '@fontsource-variable/literata/wght-italic.css'
import '@fontsource-variable/public-sans/index.css'
import './style.css'
import { QueryClientProvider } from '@tanstack/react-query'
import { Tooltip } from 'radix-ui'
import { lazy, Suspense } from 'react'
import { createRoot } from 'react-dom/client'
import { ErrorBoundary } from 'react-error-boundary'
import { BrowserRouter, Link, Route, Routes, useLocation } from 'react-router'
import { Toaster } from 'sonner'
import { begin } from './shell/begin'
import { FreshQueries } from './api/FreshQueries'
import { listen } from './api/notices'
import { Refused } from './api/client'
import { useKeyboard } from './commands/commands'
import { Help } from './shell/Help'
import { Desk } from './desk/Desk'
import { sendOrphans } from './documents/useDocument'
import { DropAnywhere } from './tapes/DropAnywhere'
import { OnItsWay } from './tapes/OnItsWay'
import { sendPlays } from './live/playLog'
import { goOn } from './tapes/uploads'
import { OnAir } from './record/OnAir'
import { OnTheLine } from './record/OnTheLine'
import { NotThereYet } from './send/NotThereYet'
import { CardsNoted } from './tapes/CardsNoted'
import { bringInLeftBehind } from './record/recorder'
import { player } from './sound/player'
import { Empty } from './ui/parts'
import { Crumb, Shell } from './shell/Shell'
import { Stopped } from './ui/Stopped'
import { useTheme } from './ui/theme'

// each view comes when it is wanted, but the Desk, where one begins
const TapeView = lazy(async () => ({ default: (await import('./tape/TapeView')).TapeView }))
const BenchView = lazy(async () => ({ default: (await import('./bench/view/BenchView')).BenchView }))
const PageView = lazy(async () => ({ default: (await import('./page/PageView')).PageView }))
const Tapes = lazy(async () => ({ default: (await import('./tapes/Tapes')).Tapes }))
const FairRecordView = lazy(async () => ({ default: (await import('./bench/record/FairRecordView')).FairRecordView }))
const KeysView = lazy(async () => ({ default: (await import('./shell/KeysView')).KeysView }))
const LogView = lazy(async () => ({ default: (await import('./tape/LogView')).LogView }))
const RecordView = lazy(async () => ({ default: (await import('./record/RecordView')).RecordView }))
const VoicingView = lazy(async () => ({ default: (await import('./voicing/VoicingView')).VoicingView }))
const BoardView = lazy(async () => ({ default: (await import('./live/BoardView')).BoardView }))
const LiveView = lazy(async () => ({ default: (await import('./live/LiveView')).LiveView }))
const SendingsView = lazy(async () => ({ default: (await import('./send/SendingsView')).SendingsView }))
const ScriptView = lazy(async () => ({ default: (await import('./page/ScriptView')).ScriptView }))

const queries = new FreshQueries({
  defaultOptions: {
    queries: {
      retry: (count, error) => !(error instanceof Refused) && count < 20,
      retryDelay: 1000,
      refetchOnWindowFocus: false,
      staleTime: 30_000,
    },
  },
})
listen(queries)
begin(queries)
void sendOrphans()
void goOn()
void sendPlays()
bringInLeftBehind()

function Views() {
  return (
    <Routes>
      <Route path="/" element={<Desk />} />
      <Route path="/tapes" element={<Tapes />} />
      <Route path="/tapes/:id" element={<TapeView />} />
      <Route path="/tapes/:id/log" element={<LogView />} />
      <Route path="/record" element={<RecordView />} />
      <Route path="/pieces/:id" element={<BenchView />} />
      <Route path="/pieces/:id/record" element={<FairRecordView />} />
      <Route path="/live" element={<LiveView />} />
      <Route path="/live/:id" element={<BoardView />} />
      <Route path="/sendings" element={<SendingsView />} />
      <Route path="/keys" element={<KeysView />} />
      <Route path="/stories/:id" element={<PageView />} />
      <Route path="/stories/:id/voice" element={<VoicingView />} />
      <Route path="/stories/:id/script" element={<ScriptView />} />
      <Route
        path="*"
        element={
          <Shell path={<Crumb>Not found</Crumb>}>
            <Empty title="There is no page at this address.">
              Start from the{' '}
              <Link className="underline" to="/">
                Desk
              </Link>
              .
            </Empty>
          </Shell>
        }
      />
    </Routes>
  )
}

function App() {
  useKeyboard()
  const { theme } = useTheme()
  const { pathname } = useLocation()
  return (
    <DropAnywhere>
      <div className="flex h-full flex-col print:block print:h-auto">
        <OnAir />
        <OnTheLine />
        <div className="min-h-0 flex-1 print:contents">
          <ErrorBoundary FallbackComponent={Stopped} onError={() => player.stop()} resetKeys={[pathname]}>
            <Suspense fallback={null}>
              <Views />
            </Suspense>
          </ErrorBoundary>
        </div>
        <NotThereYet />
        <OnItsWay />
      </div>
      <CardsNoted />
      <Help />
      <Toaster
        theme={theme === 'night' ? 'dark' : 'light'}
        position="bottom-center"
        offset={72}
        toastOptions={{ className: '!font-sans !rounded-lg' }}
      />
    </DropAnywhere>
  )
}

createRoot(document.getElementById('root')!).render(
  <QueryClientProvider client={queries}>
    <Tooltip.Provider delayDuration={500}>
      <BrowserRouter>
        <App />
      </BrowserRouter>
    </Tooltip.Provider>
  </QueryClientProvider>,
)
