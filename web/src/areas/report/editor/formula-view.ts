import type { NodeViewRenderer } from '@tiptap/core';
import katex from 'katex';

const shown = (tex: string, block: boolean): string =>
  katex.renderToString(tex || '\\square', {
    output: 'mathml',
    throwOnError: false,
    strict: 'ignore',
    trust: false,
    displayMode: block,
  });

/** A formula as it is set; while it is chosen, its source can be typed below it. */
export const formulaView =
  (block: boolean): NodeViewRenderer =>
  ({ node, editor, getPos }) => {
    let own = node;
    const dom = document.createElement(block ? 'div' : 'span');
    dom.className = `formula-node${block ? ' formula-block' : ''}`;
    const set = document.createElement('span');
    const field = document.createElement('input');
    field.className = 'formula-source';
    field.setAttribute('aria-label', 'Formula source');
    field.hidden = true;
    dom.append(set, field);
    const draw = () => {
      set.innerHTML = shown(field.hidden ? String(own.attrs.tex) : field.value, block);
    };
    function keep(): void {
      const at = getPos();
      if (field.hidden || at === undefined) return;
      field.hidden = true;
      const tex = field.value.trim();
      const { tr } = editor.state;
      if (tex === own.attrs.tex) draw();
      else editor.view.dispatch(tex ? tr.setNodeAttribute(at, 'tex', tex) : tr.delete(at, at + own.nodeSize));
    }
    field.addEventListener('input', draw);
    field.addEventListener('blur', keep);
    field.addEventListener('keydown', (e) => {
      if (e.key !== 'Enter' && e.key !== 'Escape') return;
      e.preventDefault();
      e.stopPropagation();
      if (e.key === 'Escape') field.value = String(own.attrs.tex);
      const at = getPos();
      keep();
      if (at !== undefined)
        editor.commands.setTextSelection(Math.min(at + own.nodeSize, editor.state.doc.content.size));
      editor.commands.focus();
    });
    draw();
    return {
      dom,
      selectNode: () => {
        field.hidden = false;
        field.value = String(own.attrs.tex);
        requestAnimationFrame(() => field.focus());
      },
      deselectNode: keep,
      update: (next) => {
        if (next.type !== own.type) return false;
        own = next;
        draw();
        return true;
      },
      stopEvent: (e) => e.target === field,
      ignoreMutation: () => true,
    };
  };
