using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>A whole drawing scaled, turned about Z and shifted: model space, and what says how large or where model space is (views,
/// windows of layouts, coordinate systems, dimension styles, the scale of line types).</summary>
/// <remarks>
/// Whatever stays keeps its handle. A dimension goes on showing its number: the style's factor on lengths takes the scale back (DXF
/// reference, DIMLFAC), its sizes follow (DIMSCALE). Blocks stay as they are drawn, their inserts carry the scale. What has no exact
/// image of its own (a body, a table, a leader with text) is put into one block, whose insert carries all; so nothing is lost and nothing
/// changes its kind. Sheets of paper stay, and show what they showed.
/// </remarks>
public sealed class DrawingPlacement
{
    private const double Even = 1e-12;
    private const string BlockName = "PLACED";
    private readonly Drawing _drawing;
    private readonly InsertTransform _map;
    private readonly EntityTransform _transform;
    private readonly EntityShift? _shift;
    private readonly Dictionary<Entity, Entity> _was = [];
    private readonly HashSet<CadObject> _made = [];
    private readonly HashSet<CadObject> _changed = [];
    private readonly HashSet<Handle> _pictures = [];
    private readonly List<Entity> _wrapped = [];
    private readonly double _turn;

    private DrawingPlacement(Drawing drawing, InsertTransform map)
    {
        (_drawing, _map, _transform) = (drawing, map, new EntityTransform(map));
        _turn = Math.Atan2(map.X.Y, map.X.X);
        if (Math.Abs(_transform.Scale - 1) < Even && Math.Abs(_turn) < Even)
            _shift = new EntityShift(drawing, map.Origin);
    }

    /// <summary>The inserts, blocks and styles that are where something had no image of its own.</summary>
    public IReadOnlySet<CadObject> Made => _made;

    /// <summary>What was put into a block to be placed.</summary>
    public IReadOnlyList<Entity> Wrapped => _wrapped;

    /// <summary>Everything that was changed where it is.</summary>
    public IReadOnlySet<CadObject> Changed => _changed;

    /// <summary>Which entity one was before.</summary>
    public Entity OriginalOf(Entity entity) => _was.GetValueOrDefault(entity, entity);

    /// <summary>A map in plan.</summary>
    /// <param name="scale">The factor on lengths.</param>
    /// <param name="turn">Radians, counter-clockwise.</param>
    /// <param name="shift">Where zero comes to lie.</param>
    public static InsertTransform Map(double scale, double turn, Vec3 shift)
    {
        double c = Math.Cos(turn) * scale,
            s = Math.Sin(turn) * scale;
        return new InsertTransform(new Vec3(c, s, 0), new Vec3(-s, c, 0), new Vec3(0, 0, scale), shift);
    }

    /// <summary>Places a drawing.</summary>
    /// <param name="drawing">The drawing; changed in place.</param>
    /// <param name="map">Where everything goes: a scale above 0, a turn about Z, a shift.</param>
    /// <param name="cancel">Stops between entities.</param>
    /// <exception cref="ArgumentException">The map does more.</exception>
    public static DrawingPlacement Apply(Drawing drawing, InsertTransform map, CancellationToken cancel = default)
    {
        var place = new DrawingPlacement(drawing, map);
        if (
            !place._transform.IsSimilar
            || !place._transform.IsPossible
            || map.Z.Z <= 0
            || Math.Abs(map.X.Z) > Even * map.X.Length
        )
            throw new ArgumentException(
                "A drawing is placed by a scale, a rotation about Z and a translation.",
                nameof(map)
            );
        if (map == InsertTransform.Identity)
            return place;
        place.Entities(cancel);
        if (place._shift is null)
            place.Styles();
        place.Header();
        place.Views();
        return place;
    }

    private void Entities(CancellationToken cancel)
    {
        var entities = _drawing.Model.Entities;
        for (int i = 0; i < entities.Count; i++)
        {
            cancel.ThrowIfCancellationRequested();
            if (Placed(entities[i]) is not { } now)
            {
                _wrapped.Add(entities[i]);
                continue;
            }

            if (!ReferenceEquals(now, entities[i]))
                _was[now] = entities[i];
            entities[i] = now;
            _changed.Add(now);
        }

        if (_wrapped.Count > 0)
            Wrap();
    }

    // The entity in its place; null where its kind has no image.
    private Entity? Placed(Entity entity)
    {
        if (_shift is not null)
            return _shift.Apply(entity) ? entity : null;
        return entity switch
        {
            Dimension e => Measured(e) ? e : null,
            Image e => Picture(e),
            _ => _transform.InPlace(entity),
        };
    }

    private Image Picture(Image e)
    {
        e.Corner = _map.Apply(e.Corner);
        e.Pixel = (_map.Turn(e.Pixel.Along), _map.Turn(e.Pixel.Up));
        return e;
    }

    private bool Measured(Dimension e)
    {
        if (!Pictured(e))
            return false;
        e.Definition = _map.Apply(e.Definition);
        e.TextMiddle = _transform.InObject(e.TextMiddle, e.Normal);
        e.Points = (_map.Apply(e.Points.First), _map.Apply(e.Points.Second));
        if (e.Kind is not (DimensionKind.Linear or DimensionKind.Aligned or DimensionKind.Ordinate))
            e.Third = _map.Apply(e.Third);
        if (e.Kind == DimensionKind.Angular)
            e.ArcPoint = _transform.InObject(new Vec3(e.ArcPoint.X, e.ArcPoint.Y, 0), e.Normal).XY;
        else if (e.Kind != DimensionKind.Angular3Point)
            e.Measurement *= _transform.Scale;
        // The direction of measuring turns; the horizontal is kept with the opposite sign (DXF reference, DIMENSION, 50 and 51).
        if (e.Kind == DimensionKind.Linear)
            e.Angle = _transform.Angle(e.Angle, e.Normal);
        e.Horizontal -= _transform.Angle(0, e.Normal);
        e.Leader *= _transform.Scale;
        e.Normal = _transform.Normal(e.Normal);
        return true;
    }

    // A dimension's own block is drawn in the coordinates of the drawing and goes along.
    private bool Pictured(Dimension e)
    {
        if (_drawing.Blocks[e.Block] is not { IsSpace: false } block || _pictures.Contains(block.Handle))
            return true;
        if (e.Offset != default)
            return false;
        var parts = block.Entities.ConvertAll(p => (Was: p, Now: _transform.InPlace(p)));
        if (parts.Exists(p => p.Now is null))
            return false;
        _pictures.Add(block.Handle);
        for (int i = 0; i < parts.Count; i++)
        {
            _was[parts[i].Now!] = parts[i].Was;
            block.Entities[i] = parts[i].Now!;
            _changed.Add(parts[i].Now!);
        }

        return true;
    }

    private void Wrap()
    {
        string name = BlockName;
        for (int n = 2; _drawing.Blocks[name] is not null; n++)
            name = $"{BlockName}-{n}";
        var block = _drawing.AddBlock(name);
        var goes = _wrapped.ToHashSet();
        _drawing.Model.Entities.RemoveAll(goes.Contains);
        foreach (var entity in _wrapped)
        {
            entity.Owner = block.Handle;
            block.Entities.Add(entity);
        }

        double scale = _transform.Scale;
        var insert = new Insert
        {
            Block = block.Handle,
            Location = _map.Origin,
            Rotation = _turn,
            Scale = new Vec3(scale, scale, scale),
        };
        _drawing.Add(insert);
        _made.Add(block);
        _made.Add(insert);
    }

    // The style of each dimension and leader of model space, its sizes and its factor on lengths following the scale. A style that blocks
    // use too stays for them as it is.
    private void Styles()
    {
        if (Math.Abs(_transform.Scale - 1) < Even)
            return;
        var within = _drawing.Blocks.Where(b => !b.IsModel).SelectMany(b => b.Entities).Select(StyleOf).ToHashSet();
        var scaled = new Dictionary<Handle, Handle>();
        foreach (var entity in _drawing.Model.Entities)
        {
            if (StyleOf(entity) is not { IsNull: false } handle)
                continue;
            DimensionOverrides.Scale(entity, _transform.Scale);
            if (_drawing.DimensionStyles[handle] is not { } style)
                continue;
            if (!scaled.TryGetValue(handle, out var now))
            {
                var own = within.Contains(handle) ? Copy(style) : style;
                Scale(own);
                scaled[handle] = now = own.Handle;
            }

            if (entity is Dimension dimension)
                dimension.Style = now;
            else if (entity is Leader leader)
                leader.Style = now;
        }
    }

    private static Handle StyleOf(Entity entity) =>
        entity switch
        {
            Dimension e => e.Style,
            Leader e => e.Style,
            GeometricTolerance e => e.Style,
            _ => default,
        };

    private DimensionStyle Copy(DimensionStyle style)
    {
        string name = $"{style.Name}-{BlockName}";
        for (int n = 2; _drawing.DimensionStyles[name] is not null; n++)
            name = $"{style.Name}-{BlockName}-{n}";
        var copy = new DimensionStyle
        {
            Name = name,
            Handle = _drawing.NextHandle(),
            Owner = style.Owner,
        };
        foreach (var variable in DimensionVariable.All)
            copy[variable.Name] = style[variable.Name];
        _drawing.DimensionStyles.Add(copy);
        _made.Add(copy);
        return copy;
    }

    private void Scale(DimensionStyle style)
    {
        _changed.Add(style);
        style["DIMSCALE"] = (double)style["DIMSCALE"] * _transform.Scale;
        style["DIMLFAC"] = DimensionOverrides.Factor((double)style["DIMLFAC"], _transform.Scale);
    }

    private void Header()
    {
        var header = _drawing.Header;
        if (header.Has("$LTSCALE"))
            header.Set("$LTSCALE", 40, header.Number("$LTSCALE", 1) * _transform.Scale);
        if (header.Has("$INSBASE"))
            header.Set("$INSBASE", _map.Apply(header.Point("$INSBASE")));
        var box = _drawing.Extents();
        if (box.IsEmpty)
            return;
        if (header.Has("$EXTMIN"))
            header.Set("$EXTMIN", box.Min);
        if (header.Has("$EXTMAX"))
            header.Set("$EXTMAX", box.Max);
    }

    private void Views()
    {
        foreach (var window in _drawing.Blocks.Where(b => b.IsPaper).SelectMany(b => b.Entities).OfType<Viewport>())
        {
            // The first window of a sheet is the sheet itself.
            if (window.Id == 1)
                continue;
            _changed.Add(window);
            (window.Target, window.ViewCentre) = (_map.Apply(window.Target), window.ViewCentre * _transform.Scale);
            window.ViewHeight *= _transform.Scale;
            (window.Direction, window.Twist) = Looking(window.Direction, window.Twist);
        }

        foreach (var view in _drawing.Views.Where(v => !v.OfPaper))
        {
            _changed.Add(view);
            (view.Target, view.Centre) = (_map.Apply(view.Target), view.Centre * _transform.Scale);
            (view.Height, view.Width) = (view.Height * _transform.Scale, view.Width * _transform.Scale);
            (view.Direction, view.Twist) = Looking(view.Direction, view.Twist);
        }

        foreach (var view in _drawing.Viewports)
        {
            _changed.Add(view);
            (view.Target, view.Centre) = (_map.Apply(view.Target), view.Centre * _transform.Scale);
            view.Height *= _transform.Scale;
            (view.Direction, view.Twist) = Looking(view.Direction, view.Twist);
        }

        foreach (var system in _drawing.CoordinateSystems)
        {
            _changed.Add(system);
            system.Origin = _map.Apply(system.Origin);
            (system.AxisX, system.AxisY) = (_map.Turn(system.AxisX).Unit(), _map.Turn(system.AxisY).Unit());
            system.Elevation *= _transform.Scale;
        }

        foreach (var place in _drawing.Objects.OfType<GeoData>())
        {
            _changed.Add(place);
            place.Design = _map.Apply(place.Design);
            place.Metres = (place.Metres.Across / _transform.Scale, place.Metres.Up / _transform.Scale);
            double c = Math.Cos(_turn),
                s = Math.Sin(_turn);
            place.North = new Vec2(
                (place.North.X * c) - (place.North.Y * s),
                (place.North.X * s) + (place.North.Y * c)
            );
            for (int i = 0; i < place.Mesh.Count; i++)
                place.Mesh[i] = (
                    _map.Apply(new Vec3(place.Mesh[i].From.X, place.Mesh[i].From.Y, 0)).XY,
                    place.Mesh[i].To
                );
        }
    }

    // Who looks straight down turns their head back; who looks aslant walks round.
    private (Vec3 Direction, double Twist) Looking(Vec3 direction, double twist) =>
        Math.Abs(direction.X) + Math.Abs(direction.Y) < 1e-9 * direction.Length
            ? (direction, twist - _turn)
            : (_map.Turn(direction).Unit() * direction.Length, twist);
}
