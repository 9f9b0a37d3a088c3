using System.Security.Cryptography;
using System.Text;
using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>Writes a planned subset: untouched instances byte for byte, the rest anew.</summary>
public static class SubsetWriter
{
    /// <summary>Writes a file.</summary>
    /// <param name="snapshot">The source.</param>
    /// <param name="plan">What to write; null for everything.</param>
    /// <param name="unit">The length unit to write in; null keeps the source's.</param>
    /// <param name="name">FILE_NAME's name.</param>
    /// <param name="timeStamp">FILE_NAME's time stamp.</param>
    /// <param name="target">Gets the bytes.</param>
    /// <param name="cancel">Stops between instances.</param>
    public static void Write(ModelSnapshot snapshot, SubsetPlan? plan, LengthUnit? unit, string name, string timeStamp, Stream target, CancellationToken cancel = default)
    {
        var model = snapshot.Model;
        var writer = new StepWriter(target);
        writer.Begin(model.File.Header with { Name = name, TimeStamp = timeStamp, PreprocessorVersion = "Steady Lintel" });
        bool same = unit is null || Math.Abs(unit.Metres - snapshot.Units.Metres) < 1e-12;
        var lengths = same ? null : new LengthRewriter(model, snapshot.Units.Metres, unit!.Metres);
        int next = model.File.MaxId + 1;
        int unitId = same ? 0 : WriteUnit(writer, unit!, ref next);
        for (int i = 0; i < model.File.Count; i++)
        {
            if ((i & 4095) == 0) cancel.ThrowIfCancellationRequested();
            if (plan is not null && !plan.Has(i)) continue;
            if (plan?.Cut.TryGetValue(i, out var kept) == true) WriteCut(writer, model, i, kept);
            else if (i == snapshot.Units.Assignment && !same) WriteAssignment(writer, snapshot, unitId);
            else if (lengths?.Rewrite(i) is { } inside) writer.Instance(model.File.Id(i), model.File.TypeNames[model.File.TypeOf(i)], inside);
            else writer.Copy(model.File.Raw(i));
        }

        foreach (var group in (plan?.Contained ?? []).GroupBy(c => c.Structure)) WriteContainment(writer, snapshot, group.Key, [.. group.Select(c => c.Product)], next++);
        writer.End();
    }

    private static void WriteCut(StepWriter writer, IfcModel model, int index, int[] kept)
    {
        int position = SubsetPlan.CutPosition(model, index);
        var parts = new List<string>();
        foreach (var value in new StepItems(model.Record(index).Raw))
            parts.Add(parts.Count == position ? "(" + string.Join(",", kept.Select(k => "#" + model.File.Id(k))) + ")" : Encoding.Latin1.GetString(value.Raw));
        writer.Instance(model.File.Id(index), model.File.TypeNames[model.File.TypeOf(index)], string.Join(",", parts));
    }

    // A new unit instance is made, never the old one changed: derived units may refer to that.
    private static int WriteUnit(StepWriter writer, LengthUnit unit, ref int next)
    {
        if (unit.Code is "m" or "mm")
        {
            writer.Instance(next, "IFCSIUNIT", $"*,.LENGTHUNIT.,{(unit.Code == "mm" ? ".MILLI." : "$")},.METRE.");
            return next++;
        }

        int metre = next++, factor = next++, dimensions = next++;
        writer.Instance(metre, "IFCSIUNIT", "*,.LENGTHUNIT.,$,.METRE.");
        writer.Instance(factor, "IFCMEASUREWITHUNIT", $"IFCLENGTHMEASURE({StepNumber.Format(unit.Metres)}),#{metre}");
        writer.Instance(dimensions, "IFCDIMENSIONALEXPONENTS", "1,0,0,0,0,0,0");
        writer.Instance(next, "IFCCONVERSIONBASEDUNIT", $"#{dimensions},.LENGTHUNIT.,{StepWriter.String(unit.Name.ToUpperInvariant())},#{factor}");
        return next++;
    }

    private static void WriteAssignment(StepWriter writer, ModelSnapshot snapshot, int unitId)
    {
        var model = snapshot.Model;
        var ids = model.Refs(snapshot.Units.Assignment, "Units").Where(u => u != snapshot.Units.LengthUnit).Select(model.File.Id).Prepend(unitId);
        writer.Instance(model.File.Id(snapshot.Units.Assignment), "IFCUNITASSIGNMENT", "(" + string.Join(",", ids.Select(id => "#" + id)) + ")");
    }

    private static void WriteContainment(StepWriter writer, ModelSnapshot snapshot, int structure, int[] products, int id)
    {
        var model = snapshot.Model;
        string members = string.Join(",", products.Select(p => "#" + model.File.Id(p)));
        // The same members always give the same GlobalId.
        var hash = SHA256.HashData(Encoding.ASCII.GetBytes(model.GlobalId(structure) + string.Join(",", products.Select(model.GlobalId))));
        string owner = Encoding.Latin1.GetString(model.Get(structure, "OwnerHistory").Raw);
        writer.Instance(id, "IFCRELCONTAINEDINSPATIALSTRUCTURE", $"'{GlobalIds.FromBytes(hash.AsSpan(0, 16))}',{owner},$,$,({members}),#{model.File.Id(structure)}");
    }
}
