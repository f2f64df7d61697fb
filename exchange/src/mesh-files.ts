import { Document, WebIO } from '@gltf-transform/core';
import { BufferAttribute, BufferGeometry, Group, Mesh } from 'three';
import { OBJExporter } from 'three/examples/jsm/exporters/OBJExporter.js';
import { STLExporter } from 'three/examples/jsm/exporters/STLExporter.js';
import { meshFacts, type PartMesh } from '@veldtwind/core/airframe';
import { FailedComputation } from '@veldtwind/core/numerics';
import { LENGTH_UNITS, type LengthUnit } from './options';

/** Refuses a mesh that is open: what is built from it would leak. @throws FailedComputation `open-mesh`. */
export function checkClosed(meshes: readonly PartMesh[]): void {
  for (const m of meshes) {
    const f = meshFacts(m);
    if (!f.closed)
      throw new FailedComputation(
        'open-mesh',
        `The skin of ${m.name} has ${f.openEdges} open edges.`,
        'Does the part touch itself? Look at its outermost stations.',
      );
  }
}

function scene(meshes: readonly PartMesh[], unit: LengthUnit): Group {
  const group = new Group();
  for (const m of meshes) {
    const geometry = new BufferGeometry();
    const places = Float32Array.from(m.vertices, (v) => v / LENGTH_UNITS[unit]);
    geometry.setAttribute('position', new BufferAttribute(places, 3));
    geometry.setIndex(new BufferAttribute(m.triangles, 1));
    const mesh = new Mesh(geometry);
    mesh.name = m.id;
    group.add(mesh);
  }
  group.updateMatrixWorld(true);
  return group;
}

/** Binary STL of all parts; each is closed. */
export function writeStl(meshes: readonly PartMesh[], unit: LengthUnit = 'm'): Uint8Array {
  checkClosed(meshes);
  const view = new STLExporter().parse(scene(meshes, unit), { binary: true }) as unknown as DataView;
  return new Uint8Array(view.buffer, view.byteOffset, view.byteLength);
}

/** OBJ with an object a part. */
export function writeObj(meshes: readonly PartMesh[], unit: LengthUnit = 'm'): string {
  checkClosed(meshes);
  return `# unit: ${unit}; x aft, y right, z up\n${new OBJExporter().parse(scene(meshes, unit))}`;
}

/** Binary glTF 2.0: a node a part; metres, y up and z ahead as that standard has it. @param colours by part, hexadecimal. */
export async function writeGlb(
  meshes: readonly PartMesh[],
  colour: [number, number, number] = [0.69, 0.43, 0.12],
): Promise<Uint8Array> {
  checkClosed(meshes);
  const document = new Document();
  const buffer = document.createBuffer();
  const material = document
    .createMaterial('skin')
    .setBaseColorFactor([...colour, 1])
    .setMetallicFactor(0)
    .setRoughnessFactor(0.9);
  const stage = document.createScene('airframe');
  for (const m of meshes) {
    const places = new Float32Array(m.vertices.length);
    for (let i = 0; i < places.length; i += 3) {
      places[i] = -m.vertices[i + 1];
      places[i + 1] = m.vertices[i + 2];
      places[i + 2] = -m.vertices[i];
    }
    const primitive = document
      .createPrimitive()
      .setMaterial(material)
      .setAttribute('POSITION', document.createAccessor().setType('VEC3').setArray(places).setBuffer(buffer))
      .setIndices(
        document.createAccessor().setType('SCALAR').setArray(Uint32Array.from(m.triangles)).setBuffer(buffer),
      );
    stage.addChild(document.createNode(m.id).setMesh(document.createMesh(m.name).addPrimitive(primitive)));
  }
  return new WebIO().writeBinary(document);
}
