using System.Collections;
using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>The header variables of a drawing, by name with the dollar sign, each with its groups.</summary>
public sealed class HeaderVariables : IEnumerable<KeyValuePair<string, IReadOnlyList<CadGroup>>>
{
    private readonly Dictionary<string, IReadOnlyList<CadGroup>> _groups = new(StringComparer.OrdinalIgnoreCase);
    private readonly List<string> _order = [];

    /// <summary>The groups of a variable; none when it is not there.</summary>
    public IReadOnlyList<CadGroup> this[string name]
    {
        get => _groups.GetValueOrDefault(name, []);
        set
        {
            if (!_groups.ContainsKey(name))
                _order.Add(name);
            _groups[name] = value;
        }
    }

    /// <summary>Whether a variable is there.</summary>
    public bool Has(string name) => _groups.ContainsKey(name);

    /// <summary>A number; the other value when it is not there.</summary>
    public double Number(string name, double other = 0) => this[name] is [var group, ..] ? group.Number : other;

    /// <summary>A text; empty when it is not there.</summary>
    public string Text(string name) => this[name] is [var group, ..] ? group.Text : "";

    /// <summary>A point; the origin when it is not there.</summary>
    public Vec3 Point(string name) =>
        this[name] switch
        {
            [var x, var y, var z, ..] => new Vec3(x.Number, y.Number, z.Number),
            [var x, var y] => new Vec3(x.Number, y.Number, 0),
            _ => Vec3.Zero,
        };

    /// <summary>Sets a value under one group code.</summary>
    public void Set(string name, int code, object value) =>
        this[name] = [new CadGroup(code, value is int i ? (long)i : value)];

    /// <summary>Sets a point.</summary>
    public void Set(string name, Vec3 point) =>
        this[name] = [new CadGroup(10, point.X), new CadGroup(20, point.Y), new CadGroup(30, point.Z)];

    /// <inheritdoc/>
    public IEnumerator<KeyValuePair<string, IReadOnlyList<CadGroup>>> GetEnumerator() =>
        _order.Select(name => KeyValuePair.Create(name, _groups[name])).GetEnumerator();

    IEnumerator IEnumerable.GetEnumerator() => GetEnumerator();
}
