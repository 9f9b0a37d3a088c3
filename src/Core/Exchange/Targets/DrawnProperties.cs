using System.Globalization;
using SteadyLintel.Cad;

namespace SteadyLintel.Exchange;

/// <summary>Properties as extended data: a text with the property's name, then its value: a real (1040), a text (1000), or a whole number
/// (1070) 1 or 0 for true and false.</summary>
internal static class DrawnProperties
{
    /// <summary>The application name (group code 1001).</summary>
    public const string Application = "LINTEL_PROPERTIES";

    /// <summary>The reason of the balance for what does not fit.</summary>
    public const string Full = "extended data of an entity hold 16 kB";

    // DXF reference: 16 kB of extended data an entity, of all applications.
    private const int MaxBytes = 14_000;

    /// <summary>Puts properties on an entity.</summary>
    public static void Put(Drawing drawing, Entity entity, IReadOnlyList<OutgoingProperty> properties)
    {
        if (properties.Count == 0) return;
        var groups = properties.Take(Fitting(properties)).SelectMany(Pair);
        entity.Extras.Data.Add(new ExtendedData(drawing.AddApplication(Application).Handle, [.. groups]));
    }

    /// <summary>How many properties, from the first, an entity holds.</summary>
    public static int Fitting(IReadOnlyList<OutgoingProperty> properties)
    {
        int bytes = 0, fits = 0;
        foreach (var property in properties)
        {
            bytes += Pair(property).Sum(Bytes);
            if (bytes > MaxBytes) break;
            fits++;
        }

        return fits;
    }

    /// <summary>The properties of an entity, as names and values; none when it has none of ours.</summary>
    public static IReadOnlyList<(string Key, object? Value)> Of(Drawing drawing, Entity entity)
    {
        if (!entity.HasExtras || drawing.Applications[Application] is not { } own) return [];
        if (entity.Extras.Data.Find(d => d.Application == own.Handle) is not { } data) return [];
        var list = new List<(string, object?)>();
        for (int n = 0; n + 1 < data.Groups.Count; n += 2)
            list.Add((data.Groups[n].Text, data.Groups[n + 1] is { Code: 1070 } truth ? Convert.ToInt64(truth.Value,
                CultureInfo.InvariantCulture) != 0
                : data.Groups[n + 1] is { Code: 1040 } real ? real.Value : data.Groups[n + 1].Text is { Length: > 0 } text ? text : null));
        return list;
    }

    /// <summary>A value as extended data hold it.</summary>
    public static object? Held(object? value) => value is string text ? ElementData.Short(text) is { Length: > 0 } held ? held
        : null : value;

    private static CadGroup[] Pair(OutgoingProperty property) => [new(1000, ElementData.Short(property.Key)), Value(property.Value)];

    private static CadGroup Value(object? value) => value switch
    {
        double real => new CadGroup(1040, real),
        bool truth => new CadGroup(1070, truth ? 1L : 0L),
        string text => new CadGroup(1000, ElementData.Short(text)),
        _ => new CadGroup(1000, ""),
    };

    private static int Bytes(CadGroup group) => group.Code == 1000 ? 4 + (2 * System.Text.Encoding.UTF8.GetByteCount(group.Text)) : 10;
}
