using System.Globalization;
using System.Text.Json;
using SteadyLintel.Exchange;
using SteadyLintel.Ifc;

namespace SteadyLintel.Store;

/// <summary>Collects the property sets of a revision's elements, each content once, with typed values.</summary>
/// <param name="delivery">The revision.</param>
public sealed class PropertySetStore(Guid delivery)
{
    private readonly Dictionary<string, int> _numbers = new(StringComparer.Ordinal);
    private readonly Dictionary<(int Index, int Count), int> _known = [];
    private readonly List<PropertySetRow> _rows = [];

    /// <summary>The rows, by number.</summary>
    public IReadOnlyList<PropertySetRow> Rows => _rows;

    /// <summary>The numbers of an element's sets.</summary>
    public int[] Add(IReadOnlyList<PropertySet> sets)
    {
        var numbers = new int[sets.Count];
        for (int i = 0; i < numbers.Length; i++)
        {
            // A set of a type may come with fewer properties, where the element has its own.
            var key = (sets[i].Index, sets[i].Properties.Count);
            if (sets[i].FromType || !_known.TryGetValue(key, out numbers[i]))
                numbers[i] = _known[key] = Number(sets[i]);
        }

        return numbers;
    }

    /// <summary>A property's value as stored: the text that people read, as <see cref="PropertyReader"/> gives it.</summary>
    /// <param name="value">The stored JSON of the value.</param>
    /// <param name="unit">Its unit.</param>
    public static PropertyText TextOf(string value, string unit)
    {
        using var document = JsonDocument.Parse(value);
        return new PropertyText(Text(document.RootElement), unit);
    }

    /// <summary>The properties of a stored set, in file order.</summary>
    /// <param name="values">The stored JSON of a set.</param>
    internal static IReadOnlyList<Property> Properties(string values)
    {
        using var document = JsonDocument.Parse(values);
        return
        [
            .. document
                .RootElement.EnumerateArray()
                .Select(item => new Property(
                    item[0].GetString()!,
                    Text(item[1]),
                    item[2].GetString()!,
                    item[3].GetString()!
                )),
        ];
    }

    /// <summary>A stored value as the text that people read.</summary>
    public static string Text(JsonElement value) =>
        value.ValueKind switch
        {
            JsonValueKind.True => "True",
            JsonValueKind.False => "False",
            JsonValueKind.Number => value.GetDouble().ToString("R", CultureInfo.InvariantCulture),
            JsonValueKind.String => value.GetString()!,
            _ => "",
        };

    private int Number(PropertySet set)
    {
        string values = Values(set),
            key = set.Name + "\0" + values;
        if (_numbers.TryGetValue(key, out int known))
            return known;
        _rows.Add(
            new PropertySetRow
            {
                RevisionId = delivery,
                Number = _rows.Count,
                Name = set.Name,
                Values = values,
            }
        );
        return _numbers[key] = _rows.Count - 1;
    }

    private static string Values(PropertySet set)
    {
        using var stream = new MemoryStream();
        using (var json = new Utf8JsonWriter(stream))
        {
            json.WriteStartArray();
            foreach (var property in set.Properties)
            {
                json.WriteStartArray();
                json.WriteStringValue(StoredText.Clean(property.Name));
                Value(json, property);
                json.WriteStringValue(StoredText.Clean(property.Measure));
                json.WriteStringValue(StoredText.Clean(property.Unit));
                json.WriteEndArray();
            }

            json.WriteEndArray();
        }

        return System.Text.Encoding.UTF8.GetString(stream.ToArray());
    }

    // A number is kept as one only where its text is the one it is read back as.
    private static void Value(Utf8JsonWriter json, Property property)
    {
        if (property.Value.Length == 0)
            json.WriteNullValue();
        else if (property.Measure is "IFCBOOLEAN" or "IFCLOGICAL" && property.Value is "True" or "False")
            json.WriteBooleanValue(property.Value == "True");
        else if (
            property.Measure is not ("IFCLABEL" or "IFCTEXT" or "IFCIDENTIFIER")
            && double.TryParse(property.Value, NumberStyles.Float, CultureInfo.InvariantCulture, out double number)
            && double.IsFinite(number)
            && number.ToString("R", CultureInfo.InvariantCulture) == property.Value
        )
            json.WriteNumberValue(number);
        else
            json.WriteStringValue(StoredText.Clean(property.Value));
    }
}
