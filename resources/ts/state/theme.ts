export type Theme = 'light' | 'dark';

export function theme(): Theme {
  return localStorage.getItem('theme') === 'dark' ? 'dark' : 'light';
}

export function applyTheme(next: Theme = theme()): void {
  localStorage.setItem('theme', next);
  document.documentElement.dataset['theme'] = next;
}
