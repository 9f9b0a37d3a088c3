using System.Reflection;
using System.Runtime.CompilerServices;
using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>The drawing with every kind, with no value at its default: what a format has no place for shows.</summary>
internal static class OddSink
{
    /// <summary>The drawing.</summary>
    public static Drawing Create(CadVersion version)
    {
        var drawing = KitchenSink.Create(version);
        foreach (var item in CadFacts.Objects(drawing))
        foreach (
            var property in item.GetType()
                .GetProperties(BindingFlags.Public | BindingFlags.Instance)
                .Where(p =>
                    p.CanWrite
                    && p.GetIndexParameters().Length == 0
                    && p.Name is not ("Handle" or "Owner" or "Scale" or "Type" or "Normal" or "Name" or "Path")
                )
        )
            if (Other(property.GetValue(item)) is { } other)
                property.SetValue(item, other);
        foreach (var spline in CadFacts.Objects(drawing).OfType<Spline>().Where(s => s.Controls.Count > 0))
            spline.Fits.AddRange([new Vec3(0, 0, 0), new Vec3(1, 2, 0), new Vec3(3, 1, 0)]);
        drawing.Header.Set("$DIMBLK", 1, "STR-grid");
        drawing.Header.Set("$DIMSCALE", 40, 12.5);
        foreach (var view in CadFacts.Objects(drawing).OfType<Viewport>().Where(v => v.Id != 1))
            view.Id += 3;
        foreach (var entity in drawing.Blocks.SelectMany(b => b.Entities).Where((_, n) => n % 3 == 0))
            entity.Extras.Transparency = 0x0200007F;
        return drawing;
    }

    private static object? Other(object? value) =>
        value switch
        {
            double d when double.IsFinite(d) => d + 0.125,
            Vec3 v => v + new Vec3(0.125, 0.25, 0),
            Vec2 v => v + new Vec2(0.125, 0.25),
            ITuple tuple when value.GetType().FullName!.StartsWith("System.ValueTuple", StringComparison.Ordinal) =>
                Activator.CreateInstance(
                    value.GetType(),
                    [.. Enumerable.Range(0, tuple.Length).Select(n => Other(tuple[n]) ?? tuple[n])]
                ),
            _ => null,
        };
}
