import dagre from '@dagrejs/dagre';
import { Background, Controls, Handle, Position, ReactFlow, type Edge, type Node, type NodeProps } from '@xyflow/react';
import '@xyflow/react/dist/style.css';
import { useMemo } from 'react';
import { allSteps, waysFrom, type ChatPart } from '../../../../core/chat/index.ts';
import type { SourceField } from '../../../../core/values/index.ts';
import { STEP_WORDS, stepInWords } from './chatEdits.ts';

const SIZE = { width: 230, height: 74 };

interface StepData extends Record<string, unknown> {
  /** The name of the part that begins with it; '' for others. */
  part: string;
  kind: string;
  text: string;
  wrong: string;
}
type StepNode = Node<StepData, 'step'>;

interface ChatGraphProps {
  parts: ChatPart[];
  fields: SourceField[];
  /** What is found about steps, by their ids. */
  wrong: Map<string, string>;
  selected: string | null;
  onSelect: (id: string | null) => void;
}

/** The ways of a conversation as a drawing: laid out by itself, each step to be chosen. */
export default function ChatGraph({ parts, fields, wrong, selected, onSelect }: ChatGraphProps) {
  const { nodes, edges } = useMemo(() => drawn(parts, fields, wrong), [parts, fields, wrong]);
  const shown = useMemo(() => nodes.map((node) => ({ ...node, selected: node.id === selected })), [nodes, selected]);
  return (
    <div className="h-full min-h-96" role="region" aria-label="The conversation, drawn">
      <ReactFlow<StepNode>
        nodes={shown}
        edges={edges}
        nodeTypes={NODE_TYPES}
        nodesDraggable={false}
        nodesConnectable={false}
        edgesFocusable={false}
        onNodeClick={(_, { id }) => onSelect(id)}
        onPaneClick={() => onSelect(null)}
        onNodesChange={(changes) => {
          // By the keyboard, too.
          const chosen = changes.find((change) => change.type === 'select' && change.selected);
          if (chosen?.type === 'select') onSelect(chosen.id);
        }}
        fitView
        // Its beginning, large enough to be read; the button beneath shows the whole.
        fitViewOptions={{ nodes: shown.slice(0, 4), minZoom: 0.75, maxZoom: 1 }}
        minZoom={0.2}
        proOptions={{ hideAttribution: true }}
      >
        <Background gap={24} />
        <Controls showInteractive={false} />
      </ReactFlow>
    </div>
  );
}

const NODE_TYPES = { step: StepBox };

function StepBox({ data: { part, kind, text, wrong }, selected }: NodeProps<StepNode>) {
  return (
    <div
      className={`box bg-base-100 px-2 py-1.5 text-left text-sm ${selected ? 'outline-2 outline-primary' : ''} ${wrong === '' ? '' : 'border-warning'}`}
      style={{ width: SIZE.width, height: SIZE.height }}
      title={wrong || text}
    >
      <Handle type="target" position={Position.Top} className="opacity-0" />
      {part !== '' && <strong className="block truncate">{part}</strong>}
      <span className="block text-muted truncate">
        {wrong === '' ? '' : '! '}
        {kind}
      </span>
      <span className={part === '' ? 'line-clamp-2' : 'block truncate'}>{text}</span>
      <Handle type="source" position={Position.Bottom} className="opacity-0" />
    </div>
  );
}

function drawn(
  parts: ChatPart[],
  fields: SourceField[],
  wrong: Map<string, string>,
): { nodes: StepNode[]; edges: Edge[] } {
  const graph = new dagre.graphlib.Graph({ multigraph: true });
  graph.setGraph({ rankdir: 'TB', nodesep: 36, ranksep: 56, marginx: 12, marginy: 12 });
  graph.setDefaultEdgeLabel(() => ({}));
  const entry = new Map(parts.map((part) => [part.id, part.steps[0]?.id]));
  const steps = allSteps(parts);
  for (const { step } of steps) graph.setNode(step.id, { ...SIZE });
  const edges = steps.flatMap(({ part, step, index }) =>
    waysFrom(step).flatMap(({ to, when }, at): Edge[] => {
      const target = to === '' ? part.steps[index + 1]?.id : entry.get(to);
      if (target === undefined) return [];
      graph.setEdge(step.id, target, {}, String(at));
      return [
        {
          id: `${step.id} ${at}`,
          source: step.id,
          target,
          ...(when === '' ? {} : { label: when }),
          type: 'smoothstep',
        },
      ];
    }),
  );
  dagre.layout(graph);
  const nodes = steps.map(({ part, step, index }): StepNode => {
    const at = graph.node(step.id) as { x: number; y: number };
    return {
      id: step.id,
      type: 'step',
      position: { x: at.x - SIZE.width / 2, y: at.y - SIZE.height / 2 },
      ariaLabel: `${part.name}: ${STEP_WORDS[step.kind]}: ${stepInWords(step, fields, parts)}`,
      data: {
        part: index === 0 ? part.name : '',
        kind: STEP_WORDS[step.kind],
        text: stepInWords(step, fields, parts),
        wrong: wrong.get(step.id) ?? '',
      },
    };
  });
  return { nodes, edges };
}
