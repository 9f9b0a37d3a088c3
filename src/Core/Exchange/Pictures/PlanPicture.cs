using System.Globalization;
using System.Text;
using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>A drawing seen from above, as SVG: a group for every layer, strokes alike in one path, texts as texts.</summary>
/// <remarks>Coordinates count from the lower left corner of what is shown (<c>data-corner</c>), so that pictures far from the origin keep
/// their digits, in steps of about a millionth of its size (<c>data-unit</c>).</remarks>
public sealed partial class PlanPicture
{
    private const int DeepestBlock = 16,
        MostPlaces = 2_000_000,
        MostArray = 400,
        MostFamilies = 12,
        MostPatterns = 2_000,
        Tiles = 12,
        FontSize = 10;
    private const int Paper = 0xFFFFFF,
        Ink = 0x1C2326;

    private readonly Drawing _drawing;
    private readonly Dictionary<(Stroke Stroke, Part Part), PicturePath> _strokes = [];
    private readonly Dictionary<(Handle Layer, Part Part), (PicturePath Box, StringBuilder Texts)> _texts = [];
    private Dictionary<(PatternLines Lines, int Rgb), int> _patterns = [];
    private Vec2 _corner,
        _tile;
    private double _unit,
        _dashes = 1;
    private int _places;

    private readonly int? _one;

    // The picture is so many lines wide.
    private readonly int _lines;

    private PlanPicture(Drawing drawing, int? one, int lines) => (_drawing, _one, _lines) = (drawing, one, lines);

    // What is drawn together: things of about one size in one place, so that a viewer can leave out what is too small to see or elsewhere.
    private readonly record struct Part(int Column, int Row, int Size);

    /// <summary>The picture of model space or of a layout.</summary>
    /// <param name="drawing">The drawing.</param>
    /// <param name="layout">The layout's name; null for model space.</param>
    /// <param name="one">The one colour everything has, 0xRRGGBB; null for its own.</param>
    /// <param name="lines">How many lines the picture is wide: fewer for one that is shown small.</param>
    /// <returns>An SVG element whose groups carry <c>data-layer</c> with the layer's name; null when there is nothing to show.</returns>
    public static string? Of(Drawing drawing, string? layout = null, int? one = null, int lines = 1000)
    {
        var sheet = layout is null ? null : drawing.Layouts.FirstOrDefault(l => l.Tab > 0 && l.Name == layout);
        if (layout is not null && sheet is null)
            return null;
        var block = sheet is null ? drawing.Model : drawing.Blocks[sheet.Block];
        if (block is null)
            return null;
        var picture = new PlanPicture(drawing, one, lines);
        var box = picture.Seen(block);
        if (sheet is not null)
            box = box.Add(Vec3.Zero).Add(new Vec3(sheet.Paper.Width, sheet.Paper.Height, 0));
        return box.IsEmpty ? null : picture.Draw(block, box);
    }

    // What lies far from everything else would make a dot of the rest: nine tenths of the entities decide.
    private Box Seen(BlockRecord block)
    {
        var boxes = _drawing
            .ExtentsOf(block.Entities.Where(e => e is not (Viewport or Ray)))
            .Where(b => !b.IsEmpty)
            .ToList();
        var all = boxes.Aggregate(Box.Empty, (a, b) => a.Add(b));
        if (boxes.Count < 20)
            return all;
        var x = boxes.Select(b => b.Centre.X).Order().ToList();
        var y = boxes.Select(b => b.Centre.Y).Order().ToList();
        int low = boxes.Count / 20,
            high = boxes.Count - 1 - low;
        double reach = 3 * Math.Max(Math.Max(x[high] - x[low], y[high] - y[low]), 1e-6);
        return boxes
            .Where(b =>
                b.Centre.X > x[low] - reach
                && b.Centre.X < x[high] + reach
                && b.Centre.Y > y[low] - reach
                && b.Centre.Y < y[high] + reach
            )
            .Aggregate(Box.Empty, (a, b) => a.Add(b));
    }

    private string Draw(BlockRecord block, Box box)
    {
        _corner = box.Min.XY;
        double size = Math.Max(Math.Max(box.Size.X, box.Size.Y), 1e-6),
            margin = size * 0.03;
        _tile = new Vec2(Math.Max(box.Size.X, size / 1000) / Tiles, Math.Max(box.Size.Y, size / 1000) / Tiles);
        _unit = Math.Pow(10, Math.Floor(Math.Log10(size)) - 6);
        foreach (var entity in block.Entities)
            Add(entity, InsertTransform.Identity, default, Ink, 0);
        var svg = new StringBuilder();
        double width = box.Size.X + (2 * margin),
            height = box.Size.Y + (2 * margin);
        svg.Append(
            CultureInfo.InvariantCulture,
            $"<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"{Number(-margin)} {Number(-box.Size.Y - margin)} {Number(width)} {Number(height)}\" data-corner=\"{_corner.X:R} {_corner.Y:R}\" data-unit=\"{_unit:R}\" role=\"img\" aria-label=\"The drawing from above\">"
        );
        svg.Append(
            CultureInfo.InvariantCulture,
            $"<g id=\"strokes\" stroke-width=\"{Number(width / _lines)}\" stroke-linecap=\"round\" stroke-linejoin=\"round\">"
        );
        Layers(svg);
        int number = 0;
        foreach (
            var window in block
                .Entities.OfType<Viewport>()
                .Where(v => v.Id != 1 && v.ViewHeight > 0 && v.Direction.Unit().Z > 0.999)
        )
            Window(svg, window, ++number);
        svg.Append("</g>");
        Patterns(svg, width / _lines);
        return svg.Append("</svg>").ToString();
    }

    // Who shows the picture keeps the strokes of patterns as wide on the screen as all others.
    private void Patterns(StringBuilder svg, double wide)
    {
        foreach (var ((lines, rgb), number) in _patterns)
            svg.Append(
                CultureInfo.InvariantCulture,
                $"<pattern id=\"lines{number}\" width=\"1\" height=\"1\" patternUnits=\"userSpaceOnUse\" patternTransform=\"matrix({lines.Transform})\"><path fill=\"none\" data-spacing=\"{lines.Spacing:G6}\" stroke=\"#{(rgb == Paper ? Ink : rgb):x6}\" stroke-width=\"{wide / _unit / lines.Spacing:G4}\" d=\"{lines.Data}\"/></pattern>"
            );
    }

    private void Layers(StringBuilder svg)
    {
        foreach (
            var layer in _strokes
                .Keys.Select(s => s.Stroke.Layer)
                .Concat(_texts.Keys.Select(t => t.Layer))
                .Distinct()
                .Order()
        )
            Layer(svg, layer);
    }

    // What is seen through a viewport that looks straight down: model space in its scale, cut at the frame.
    private void Window(StringBuilder svg, Viewport window, int number)
    {
        double scale = window.Scale,
            c = Math.Cos(window.Twist) * scale,
            s = Math.Sin(window.Twist) * scale;
        var turn = new InsertTransform(new Vec3(c, s, 0), new Vec3(-s, c, 0), new Vec3(0, 0, scale), Vec3.Zero);
        var place = turn with
        {
            Origin =
                window.Centre
                - new Vec3(window.ViewCentre.X * scale, window.ViewCentre.Y * scale, 0)
                - turn.Turn(window.Target),
        };
        var inner = new PlanPicture(_drawing, _one, _lines)
        {
            _corner = _corner,
            _tile = _tile,
            _unit = _unit,
            _places = _places,
            _patterns = _patterns,
            _dashes = DashesAsModelled ? scale : 1,
        };
        foreach (var entity in _drawing.Model.Entities)
            if (!window.Frozen.Contains(entity.Layer))
                inner.Add(entity, place, default, Ink, 0);
        double left = window.Centre.X - (window.Size.Width / 2) - _corner.X,
            top = _corner.Y - window.Centre.Y - (window.Size.Height / 2);
        svg.Append(
            CultureInfo.InvariantCulture,
            $"<clipPath id=\"window{number}\"><rect x=\"{Number(left)}\" y=\"{Number(top)}\" width=\"{Number(window.Size.Width)}\" height=\"{Number(window.Size.Height)}\"/></clipPath><g clip-path=\"url(#window{number})\">"
        );
        _places = inner._places;
        inner.Layers(svg);
        svg.Append("</g>");
    }

    private void Layer(StringBuilder svg, Handle layer)
    {
        bool shown = _drawing.Layers[layer] is not { } record || (record.On && !record.Frozen);
        svg.Append(
            CultureInfo.InvariantCulture,
            $"<g data-layer=\"{System.Net.WebUtility.HtmlEncode(_drawing.LayerName(layer))}\"{(shown ? "" : " display=\"none\"")}>"
        );
        foreach (
            var ((stroke, _), path) in _strokes
                .Where(s => s.Key.Stroke.Layer == layer)
                .OrderByDescending(s => s.Key.Stroke.Filled)
        )
        {
            string colour = $"#{(stroke.Rgb == Paper ? Ink : stroke.Rgb):x6}";
            if (stroke.Pattern > 0)
                svg.Append(
                    CultureInfo.InvariantCulture,
                    $"<path {path.Bounds} fill=\"url(#lines{stroke.Pattern})\" d=\"{path.Data}\"/>"
                );
            else if (stroke.Filled)
                svg.Append(
                    CultureInfo.InvariantCulture,
                    $"<path {path.Bounds} fill=\"{colour}\" fill-opacity=\".25\" d=\"{path.Data}\"/>"
                );
            else
                svg.Append(
                    CultureInfo.InvariantCulture,
                    $"<path {path.Bounds} fill=\"none\" stroke=\"{colour}\"{(stroke.Dashes.Length > 0 ? $" stroke-dasharray=\"{stroke.Dashes}\"" : "")} d=\"{path.Data}\"/>"
                );
        }

        foreach (var (_, (box, texts)) in _texts.Where(t => t.Key.Layer == layer))
            svg.Append(CultureInfo.InvariantCulture, $"<g {box.Bounds} data-text=\"true\" font-size=\"{FontSize}\">")
                .Append(texts)
                .Append("</g>");
        svg.Append("</g>");
    }

    private void Add(Entity entity, InsertTransform at, Handle blockLayer, int blockColour, int depth)
    {
        // Entities count like points: blocks within blocks may hold more of them than could ever be drawn.
        if (entity.Invisible || ++_places > MostPlaces)
            return;
        // What lies on layer 0 of a block is on the layer of its insert.
        var layer = depth > 0 && _drawing.LayerName(entity.Layer) == "0" ? blockLayer : entity.Layer;
        int colour = _one
            ?? (
                entity.Colour.Index == 0 && entity.Colour.Rgb is null
                    ? blockColour
                    : entity.Colour.Seen ?? _drawing.Layers[layer]?.Colour.Seen ?? Ink
            );
        var stroke = new Stroke(layer, colour, false, Dashes(entity, layer));
        switch (entity)
        {
            case Insert insert:
                Block(insert, at, layer, colour, depth);
                break;
            case Dimension dimension when _drawing.Blocks[dimension.Block] is { } picture && depth < DeepestBlock:
                foreach (var part in picture.Entities)
                    Add(part, at, layer, colour, depth + 1);
                break;
            case TextEntity text:
                Text(layer, colour, text, at);
                break;
            case MText text:
                Text(layer, colour, text, at);
                break;
            case Table table:
                Block(table.Shown(), at, layer, colour, depth);
                break;
            case MultiLeader leader:
                foreach (var path in leader.Context.Paths())
                    Line(stroke, path.Select(at.Apply), false);
                if (leader.Shown() is { } content)
                    Add(content, at, layer, colour, depth);
                break;
            case Hatch hatch:
                Fill(stroke, hatch, at);
                break;
            case Solid solid:
                Line(
                    stroke with
                    {
                        Filled = true,
                        Dashes = "",
                    },
                    HatchArea.Oriented(
                        [
                            .. new[] { 0, 1, 3, 2 }.Select(i =>
                                at.Apply(ObjectCoordinates.ToWorld(solid.Corners[i], solid.Normal))
                            ),
                        ],
                        false
                    ),
                    true
                );
                break;
            case MeshEntity mesh:
                for (
                    int i = 0;
                    i < mesh.Faces.Count && i + mesh.Faces[i] < mesh.Faces.Count && mesh.Faces[i] > 0;
                    i += 1 + mesh.Faces[i]
                )
                    Line(
                        stroke,
                        mesh.Faces.Skip(i + 1)
                            .Take(mesh.Faces[i])
                            .Where(p => (uint)p < mesh.Points.Count)
                            .Select(p => at.Apply(mesh.Points[p])),
                        true
                    );
                break;
            case Polyline { Kind: PolylineKind.Polyface } faces:
                foreach (var face in faces.Vertices.Where(v => v.IsFace))
                    Line(
                        stroke,
                        face.Corners.Where(c => c != 0 && Math.Abs(c) <= faces.Vertices.Count)
                            .Select(c => at.Apply(faces.Vertices[Math.Abs(c) - 1].Location)),
                        true
                    );
                break;
            case RoundEntity round when Arc(stroke, round, at):
                break;
            default:
                Line(stroke, EntityPoints.Of(entity).Select(at.Apply), EntityPoints.IsClosed(entity));
                break;
        }
    }

    private void Block(Insert insert, InsertTransform at, Handle layer, int colour, int depth)
    {
        if (depth >= DeepestBlock || _drawing.Blocks[insert.Block] is not { } block)
            return;
        foreach (var place in InsertTransform.All(insert, block, MostArray))
        foreach (var part in block.Entities)
            if (part is not AttributeDefinition)
                Add(part, place.Within(at), layer, colour, depth + 1);
        foreach (var attribute in insert.Attributes.Where(a => (a.Flags & 1) == 0))
            Add(attribute, at, layer, colour, depth);
    }

    // Areas are filled lightly, so that what is written on them can be read; patterns with their lines.
    private void Fill(Stroke stroke, Hatch hatch, InsertTransform at)
    {
        var loops = HatchArea.Loops(hatch, at);
        if (loops.Count == 0)
            return;
        if (hatch.Gradient is { Stops.Count: > 0 } gradient)
            stroke = stroke with { Rgb = _one ?? Mean([.. gradient.Stops.Select(s => s.Colour.Seen ?? Ink)]) };
        var box = Box.Of(loops.SelectMany(l => l));
        var lines =
            hatch.Filled || hatch.Lines.Count > MostFamilies
                ? []
                : hatch
                    .Lines.Select(l => PatternLines.Of(l, hatch, at, _corner, _unit))
                    .OfType<PatternLines>()
                    .Select(l => Pattern(l, stroke.Rgb))
                    .Where(p => p > 0)
                    .ToList();
        foreach (int pattern in lines.Count > 0 ? lines : [0])
        {
            var path = Path(stroke with { Filled = true, Dashes = "", Pattern = pattern }, box);
            foreach (var loop in loops)
            {
                path.Move(loop[0]);
                for (int i = 1; i < loop.Length; i++)
                    path.Line(loop[i]);
                path.Close();
                _places += loop.Length;
            }
        }
    }

    // A gradient, filled lightly, is known from its middle by few.
    private static int Mean(int[] colours) =>
        new[] { 16, 8, 0 }.Sum(shift => (int)colours.Average(c => (c >> shift) & 255) << shift);

    private int Pattern(PatternLines lines, int rgb)
    {
        var key = (lines, rgb);
        return _patterns.TryGetValue(key, out int known) ? known
            : _patterns.Count < MostPatterns ? _patterns[key] = _patterns.Count + 1
            : 0;
    }

    private void Line(Stroke stroke, IEnumerable<Vec3> points, bool closed)
    {
        var all = points as IReadOnlyList<Vec3> ?? [.. points];
        if (all.Count == 0)
            return;
        var path = Path(stroke, Box.Of(all));
        path.Move(all[0]);
        for (int i = 1; i < all.Count; i++)
            path.Line(all[i]);
        _places += all.Count;
        if (closed)
            path.Close();
    }

    private PicturePath Path(Stroke stroke, Box box)
    {
        var key = (stroke, PartOf(box));
        if (!_strokes.TryGetValue(key, out var path))
            _strokes[key] = path = new PicturePath(_corner, _unit);
        path.Cover(box);
        return path;
    }

    // Sizes go by fours. What is larger than a tile is nowhere in particular.
    private Part PartOf(Box box)
    {
        var centre = box.Centre;
        if (box.Size.X > _tile.X || box.Size.Y > _tile.Y)
            return new Part(0, 0, int.MaxValue);
        return new Part(
            Tile((centre.X - _corner.X) / _tile.X),
            Tile((centre.Y - _corner.Y) / _tile.Y),
            (int)Math.Round(Math.Log2(Math.Max(Math.Max(box.Size.X, box.Size.Y), _unit)) / 2)
        );

        static int Tile(double at) => (int)Math.Clamp(at, -1, Tiles);
    }

    // Circles and arcs that stay round are arcs of SVG too; others are lines. Turned-over ones run the other way.
    private bool Arc(Stroke stroke, RoundEntity round, InsertTransform at)
    {
        var (x, y, _) = ObjectCoordinates.Axes(round.Normal);
        Vec3 u = at.Turn(x) * round.Radius,
            v = at.Turn(y) * round.Radius;
        double radius = u.Length,
            slack = 1e-6 * radius;
        if (
            radius < _unit
            || Math.Abs(u.Z) + Math.Abs(v.Z) > slack
            || Math.Abs(v.Length - radius) > slack
            || Math.Abs(u.Dot(v)) > slack * radius
        )
            return false;
        var centre = at.Apply(ObjectCoordinates.ToWorld(round.Centre, round.Normal));
        double from = 0,
            span = 2 * Math.PI;
        if (round is ArcEntity arc)
        {
            from = arc.Start;
            span = arc.End - arc.Start;
            span = ArcAngles.End(0, span);
        }

        // Half and half, for an arc back to where it begins is none.
        bool clockwise = u.XY.Cross(v.XY) < 0;
        int pieces = span > Math.PI * 1.5 ? 2 : 1;
        var path = Path(stroke, Box.Of(EntityPoints.Of(round).Select(at.Apply)));
        path.Move(On(0));
        for (int i = 1; i <= pieces; i++)
            path.Arc(On(span * i / pieces), radius, span / pieces > Math.PI, clockwise);
        _places += pieces + 1;
        return true;

        Vec3 On(double turn) => centre + (u * Math.Cos(from + turn)) + (v * Math.Sin(from + turn));
    }

    // $PSLTSCALE 0: the dashes in a viewport are those of model space, in its scale; 1: those of the paper, whatever the scale.
    private bool DashesAsModelled => _drawing.Header.Number("$PSLTSCALE", 1) == 0;

    // A dot is a dash as short as the stroke is wide.
    private string Dashes(Entity entity, Handle layer) =>
        string.Join(
            ' ',
            LineDashes.Of(_drawing, entity, layer).Select(d => Number(Math.Max(Math.Abs(d) * _dashes, _unit * 100)))
        );

    // Lengths in steps of the grid.
    private string Number(double value) =>
        ((long)Math.Clamp(Math.Round(value / _unit), -1e15, 1e15)).ToString(CultureInfo.InvariantCulture);
}
