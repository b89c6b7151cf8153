import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { Tooltip } from 'radix-ui';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import './app.css';
import { useIsRoom, useShotId } from './state/route';
import { applyTheme } from './state/theme';
import { Notices } from './ui/Notices';
import { ShotScreen } from './shot/ShotScreen';
import { RoomPage } from './yard/RoomPage';
import { Yard } from './yard/Yard';

const client = new QueryClient({
  defaultOptions: { queries: { refetchOnWindowFocus: false, retry: 1, staleTime: 5000 } },
});

function App() {
  const shotId = useShotId();
  const isRoom = useIsRoom();
  if (isRoom) return <RoomPage />;
  return shotId ? <ShotScreen key={shotId} id={shotId} /> : <Yard />;
}

applyTheme();
createRoot(document.getElementById('root') as HTMLElement).render(
  <StrictMode>
    <QueryClientProvider client={client}>
      <Tooltip.Provider>
        <App />
        <Notices />
      </Tooltip.Provider>
    </QueryClientProvider>
  </StrictMode>,
);
