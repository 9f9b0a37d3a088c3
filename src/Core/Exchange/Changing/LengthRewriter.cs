using System.Globalization;
using System.Text;
using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>Rewrites the lengths of instances for another length unit, attribute by attribute, as the schema table says.</summary>
/// <remarks>
/// Scaled: attributes whose type is a length measure, at any list depth; values typed as a length measure; the precision of contexts (a
/// plain
/// real that the standard gives in the length unit). Not scaled: values with a unit of their own, conversion factors, map coordinates in
/// the map's
/// own unit, areas and volumes (their units stay as declared).
/// </remarks>
public sealed class LengthRewriter
{
    private readonly IfcModel _model;
    private readonly double _from;
    private readonly double _to;
    private readonly Dictionary<EntityDef, bool[]> _lengths = [];

    /// <summary>Prepares to rewrite.</summary>
    /// <param name="model">The model.</param>
    /// <param name="from">Metres in the file's unit.</param>
    /// <param name="to">Metres in the new unit.</param>
    public LengthRewriter(IfcModel model, double from, double to) => (_model, _from, _to) = (model, from, to);

    /// <summary>A length in the new unit, rounded to 15 digits so that 4800 mm becomes 4.8 m.</summary>
    public double Scale(double value)
    {
        double scaled = value * _from / _to;
        return double.Parse(scaled.ToString("G15", CultureInfo.InvariantCulture), CultureInfo.InvariantCulture);
    }

    /// <summary>Whether an instance may hold a length; distinguished from its entity and a search for a length's keyword.</summary>
    public bool MayChange(int index) =>
        _model.Entity(index) is { } entity
        && (LengthsOf(entity).AsSpan().Contains(true) || _model.Record(index).Raw.IndexOf("LENGTHMEASURE"u8) >= 0);

    /// <summary>The text between the parentheses with its lengths rewritten; null when nothing changes.</summary>
    public string? Rewrite(int index)
    {
        if (_model.Entity(index) is not { } entity)
            return null;
        var lengths = LengthsOf(entity);
        var raw = _model.Record(index).Raw;
        bool typed = raw.IndexOf("LENGTHMEASURE"u8) >= 0;
        if (!typed && !lengths.AsSpan().Contains(true))
            return null;
        if (entity.Is("IfcMapConversion"))
            return MapConversion(index);
        var text = new StringBuilder(raw.Length + 16);
        int position = 0;
        bool changed = false;
        foreach (var value in new StepItems(raw))
        {
            if (position > 0)
                text.Append(',');
            bool length = position < lengths.Length && lengths[position];
            if (!(length || typed) || value.IsNull || HasOwnUnit(entity, index, position))
                text.Append(Encoding.Latin1.GetString(value.Raw));
            else
            {
                changed = true;
                if (length)
                    AppendScaled(value, text);
                else
                    AppendTyped(value, text);
            }

            position++;
        }

        return changed ? text.ToString() : null;
    }

    private bool[] LengthsOf(EntityDef entity)
    {
        if (_lengths.TryGetValue(entity, out var known))
            return known;
        return _lengths[entity] = [
            .. entity.Attributes.Select(a =>
                MeasureKinds.IsLength(a.Type)
                || (a.Name == "Precision" && entity.Is("IfcGeometricRepresentationContext") && !a.IsDerived)
            ),
        ];
    }

    private bool HasOwnUnit(EntityDef entity, int index, int position) =>
        entity.Is("IfcMeasureWithUnit")
        || (position < entity.Attributes.Count && OwnUnits.Of(_model, index, entity.Attributes[position].Name) >= 0);

    // Eastings and heights are in the map's unit when it names one; the scale then carries the change of ours.
    private string? MapConversion(int index)
    {
        var record = _model.Record(index);
        bool own = _model.Ref(_model.Ref(index, "TargetCRS"), "MapUnit") >= 0;
        var entity = _model.Entity(index)!;
        var parts = new List<string>();
        for (int a = 0; a < record.Count; a++)
        {
            var value = record[a];
            if (!own && MeasureKinds.IsLength(entity.Attributes[a].Type))
                parts.Add(StepNumber.Format(Scale(value.Real)));
            else if (own && entity.Attributes[a].Name == "Scale")
                parts.Add(StepNumber.Format((double.IsFinite(value.Real) ? value.Real : 1) * _to / _from));
            else
                parts.Add(Encoding.Latin1.GetString(value.Raw));
        }

        return string.Join(",", parts);
    }

    private void AppendScaled(StepValue value, StringBuilder text)
    {
        switch (value.Kind)
        {
            case StepKind.Number:
                text.Append(StepNumber.Format(Scale(value.Real)));
                break;
            case StepKind.List when !value.IsTooDeep:
                AppendList(value, text, AppendScaled);
                break;
            case StepKind.Typed when !value.IsTooDeep:
                AppendTyped(value, text);
                break;
            default:
                text.Append(Encoding.Latin1.GetString(value.Raw));
                break;
        }
    }

    private void AppendTyped(StepValue value, StringBuilder text)
    {
        if (value.Kind == StepKind.List && !value.IsTooDeep)
            AppendList(value, text, AppendTyped);
        else if (value.Kind == StepKind.Typed && !value.IsTooDeep && MeasureKinds.IsLength(value.TypeName!))
        {
            text.Append(value.TypeName).Append('(');
            AppendScaled(value.Inner, text);
            text.Append(')');
        }
        else
            text.Append(Encoding.Latin1.GetString(value.Raw));
    }

    private delegate void Append(StepValue value, StringBuilder text);

    private static void AppendList(StepValue list, StringBuilder text, Append append)
    {
        text.Append('(');
        bool first = true;
        foreach (var item in list.Items)
        {
            if (!first)
                text.Append(',');
            first = false;
            append(item, text);
        }

        text.Append(')');
    }
}
