using System.Text;
using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>Writes a planned subset: untouched instances byte for byte, the rest again.</summary>
public static class SubsetWriter
{
    /// <summary>Writes a file.</summary>
    /// <param name="snapshot">The source.</param>
    /// <param name="plan">What to write; null for everything.</param>
    /// <param name="rewrites">What instances undergo; null for nothing.</param>
    /// <param name="name">FILE_NAME's name.</param>
    /// <param name="timeStamp">FILE_NAME's time stamp.</param>
    /// <param name="target">Gets the bytes.</param>
    /// <param name="cancel">Stops between instances.</param>
    public static void Write(
        ModelSnapshot snapshot,
        SubsetPlan? plan,
        RewriteSet? rewrites,
        string name,
        string timeStamp,
        Stream target,
        CancellationToken cancel = default
    ) => Write(snapshot, plan, rewrites, name, timeStamp, target, new MadeInstances(), cancel);

    /// <summary>Writes a file and keeps what it adds to the source.</summary>
    internal static void Write(
        ModelSnapshot snapshot,
        SubsetPlan? plan,
        RewriteSet? rewrites,
        string name,
        string timeStamp,
        Stream target,
        MadeInstances made,
        CancellationToken cancel
    )
    {
        rewrites ??= new RewriteSet(snapshot, plan, new RewriteOptions());
        var writer = new StepWriter(target);
        writer.Begin(
            snapshot.Model.File.Header with
            {
                Name = name,
                TimeStamp = timeStamp,
                PreprocessorVersion = "Steady Lintel",
                Schema = rewrites.Schema ?? snapshot.Model.File.Header.Schema,
            }
        );
        Instances(snapshot, plan, rewrites, new SourceInstances(snapshot.Model, writer, made), cancel);
        writer.End();
    }

    /// <summary>Hands out the instances of a planned subset, changed or as they are.</summary>
    internal static void Instances(
        ModelSnapshot snapshot,
        SubsetPlan? plan,
        RewriteSet rewrites,
        IInstanceTarget target,
        CancellationToken cancel
    )
    {
        var model = snapshot.Model;
        var fresh = new NewInstances(HighestName(model, rewrites, plan) + 1);
        for (int i = 0; i < model.File.Count; i++)
        {
            if ((i & 4095) == 0)
                cancel.ThrowIfCancellationRequested();
            if (plan is not null && !plan.Has(i))
                continue;
            InstanceText? text = null;
            if (plan?.Cut.Contains(i) == true)
                text = Cut(model, i, plan);
            foreach (var rewrite in rewrites.All)
            {
                if (text?.Keyword is null && text is not null)
                    break;
                if (rewrite.Touches(i))
                    rewrite.Apply(text ??= InstanceText.Of(model, i), fresh);
            }

            if (text is null)
                target.Copy(i);
            else if (text.Keyword is not null)
                target.Write(model.File.Id(i), text.Keyword, text.Inside, i);
            foreach (var (id, keyword, inside) in fresh.Take())
                target.Write(id, keyword, inside, -1);
        }

        foreach (var group in (plan?.Contained ?? []).GroupBy(c => c.Structure))
        {
            fresh.Add(
                "IFCRELCONTAINEDINSPATIALSTRUCTURE",
                Containment(snapshot, rewrites, group.Key, [.. group.Select(c => c.Product)])
            );
            foreach (var (n, keyword, inside) in fresh.Take())
                target.Write(n, keyword, inside, -1);
        }
    }

    private static int HighestName(IfcModel model, RewriteSet rewrites, SubsetPlan? plan) =>
        rewrites.All.Count == 0 && plan is not { Contained.Count: > 0 } ? model.File.MaxId : HighestName(model);

    /// <summary>The highest name that a model uses or refers to: a new instance must not take a name that a dangling reference
    /// calls.</summary>
    /// <exception cref="OrderException">It is so high that there is no room for new ones.</exception>
    internal static int HighestName(IfcModel model)
    {
        int highest = model.File.MaxId;
        for (int i = 0; i < model.File.Count; i++)
        {
            var raw = model.File.Raw(i);
            for (int at = 1; StepReferences.Next(raw, ref at, out int id, out _); )
                highest = Math.Max(highest, id);
        }

        return highest < int.MaxValue / 2
            ? highest
            : throw new OrderException(
                "The model names instances so high that no new one can be added; hand it over as it is."
            );
    }

    // References to what stays leave their lists; single ones are unset. References that lead nowhere in the source are kept as they came.
    private static InstanceText Cut(IfcModel model, int index, SubsetPlan plan)
    {
        var text = InstanceText.Of(model, index);
        for (int p = 0; p < text.Parts.Count; p++)
            text.Parts[p] = Cut(model, text.Parts[p], plan);
        return text;
    }

    private static string Cut(IfcModel model, string value, SubsetPlan plan)
    {
        if (!value.Contains('#', StringComparison.Ordinal) || value[0] == '\'')
            return value;
        if (value[0] == '#')
            return
                int.TryParse(value.AsSpan(1), out int id)
                && model.File.IndexOf(id) is >= 0 and var target
                && !plan.Has(target)
                ? "$"
                : value;
        int open = value.IndexOf('(', StringComparison.Ordinal);
        if (open < 0)
            return value;
        var kept = InstanceText
            .Split(value[(open + 1)..^1])
            .Select(v => (Before: v, After: Cut(model, v, plan)))
            .Where(v => v.After != "$" || v.Before == "$");
        return $"{value[..open]}({string.Join(",", kept.Select(v => v.After))})";
    }

    private static string Containment(ModelSnapshot snapshot, RewriteSet rewrites, int structure, int[] products)
    {
        var model = snapshot.Model;
        var members = products.Where(rewrites.Keeps).ToArray();
        // The same members always give the same GlobalId.
        string id = GlobalIds.Derived(model.GlobalId(structure), string.Join(",", members.Select(model.GlobalId)));
        string owner = Encoding.Latin1.GetString(model.Get(structure, "OwnerHistory").Raw);
        return $"'{id}',{owner},$,$,({string.Join(",", members.Select(p => "#" + model.File.Id(p)))}),#{model.File.Id(structure)}";
    }
}
