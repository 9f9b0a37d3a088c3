// Reads IFC files with web-ifc and writes beside each, as FILE.jsonl, one JSON line an element: identity, properties, volume and box (metres, Z up).
import { readFileSync, writeFileSync } from 'node:fs';
import { IfcAPI, IFCRELDEFINESBYPROPERTIES, IFCBUILDINGSTOREY } from 'web-ifc';

const api = new IfcAPI();
await api.Init();
for (const file of process.argv.slice(2)) {
  const model = api.OpenModel(readFileSync(file), { COORDINATE_TO_ORIGIN: false, CIRCLE_SEGMENTS: 96 });

  const ids = (vector) => Array.from({ length: vector.size() }, (_, i) => vector.get(i));
  const shapes = new Map();
  const add = (mesh) => {
    const shape = shapes.get(mesh.expressID) ?? {
      volume: 0,
      min: [Infinity, Infinity, Infinity],
      max: [-Infinity, -Infinity, -Infinity],
    };
    for (let g = 0; g < mesh.geometries.size(); g++) {
      const placed = mesh.geometries.get(g),
        m = placed.flatTransformation;
      const geometry = api.GetGeometry(model, placed.geometryExpressID);
      const vertices = api.GetVertexArray(geometry.GetVertexData(), geometry.GetVertexDataSize());
      const indices = api.GetIndexArray(geometry.GetIndexData(), geometry.GetIndexDataSize());
      const at = (i) => {
        const x = vertices[6 * i],
          y = vertices[6 * i + 1],
          z = vertices[6 * i + 2];
        const wx = m[0] * x + m[4] * y + m[8] * z + m[12],
          wy = m[1] * x + m[5] * y + m[9] * z + m[13],
          wz = m[2] * x + m[6] * y + m[10] * z + m[14];
        return [wx, -wz, wy];
      };
      for (let i = 0; i < indices.length; i += 3) {
        const [a, b, c] = [at(indices[i]), at(indices[i + 1]), at(indices[i + 2])];
        shape.volume +=
          (a[0] * (b[1] * c[2] - b[2] * c[1]) +
            a[1] * (b[2] * c[0] - b[0] * c[2]) +
            a[2] * (b[0] * c[1] - b[1] * c[0])) /
          6;
        for (const p of [a, b, c])
          for (let k = 0; k < 3; k++) {
            shape.min[k] = Math.min(shape.min[k], p[k]);
            shape.max[k] = Math.max(shape.max[k], p[k]);
          }
      }
      geometry.delete();
    }
    shapes.set(mesh.expressID, shape);
  };
  api.StreamAllMeshes(model, add);

  const properties = new Map();
  for (const rel of ids(api.GetLineIDsWithType(model, IFCRELDEFINESBYPROPERTIES))) {
    const line = api.GetLine(model, rel);
    const set = api.GetLine(model, line.RelatingPropertyDefinition.value, true);
    for (const object of line.RelatedObjects) {
      const values = properties.get(object.value) ?? [];
      for (const p of set.HasProperties ?? [])
        if (p.NominalValue) values.push(`${set.Name.value}.${p.Name.value}=${p.NominalValue.value}`);
      properties.set(object.value, values);
    }
  }

  const out = [];
  for (const type of api.GetAllTypesOfModel(model)) {
    if (!api.IsIfcElement(type.typeID) && !['IfcSpace', 'IfcGrid'].includes(type.typeName)) continue;
    for (const id of ids(api.GetLineIDsWithType(model, type.typeID))) {
      const line = api.GetLine(model, id);
      out.push(
        JSON.stringify({
          id,
          globalId: line.GlobalId?.value ?? '',
          class: type.typeName,
          name: line.Name?.value ?? '',
          properties: (properties.get(id) ?? []).sort(),
          ...(shapes.get(id) ?? {}),
        }),
      );
    }
  }
  out.push(JSON.stringify({ storeys: ids(api.GetLineIDsWithType(model, IFCBUILDINGSTOREY)).length }));
  writeFileSync(file + '.jsonl', out.join('\n') + '\n');
  api.CloseModel(model);
}
