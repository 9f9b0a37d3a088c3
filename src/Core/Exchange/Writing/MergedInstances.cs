using System.Text;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>Writes the instances of one of several sources into their common file, under new names.</summary>
internal sealed class MergedInstances(
    MergePlan plan,
    int source,
    ModelSnapshot snapshot,
    StepWriter writer,
    MadeInstances made
) : IInstanceTarget
{
    /// <inheritdoc/>
    public void Copy(int index)
    {
        if (!plan.Writes(source, index))
            return;
        var file = snapshot.Model.File;
        // The first source keeps its names unless its project must name more contexts, or a reference that leads nowhere would lead
        // somewhere now.
        if (source == 0 && index != snapshot.Structure.Project && !plan.HasShared(0) && KeepsNames(file.Raw(index)))
            writer.Copy(file.Raw(index));
        else if (file.TypeNames[file.TypeOf(index)].Length == 0)
            writer.Copy(Encoding.Latin1.GetBytes(MergePlan.Mapped(file.Raw(index), id => plan.Id(source, id))));
        else
            Write(
                file.Id(index),
                file.TypeNames[file.TypeOf(index)],
                Encoding.Latin1.GetString(file.Record(index).Raw),
                index
            );
    }

    /// <inheritdoc/>
    public void Write(int id, string keyword, string inside, int index)
    {
        if (index >= 0 && !plan.Writes(source, index))
            return;
        string mapped = MergePlan.Mapped(Encoding.Latin1.GetBytes(inside), n => plan.Id(source, n));
        if (index >= 0)
            mapped = Adjusted(index, mapped);
        made.Add(plan.Id(source, id), keyword, mapped, index);
        writer.Instance(plan.Id(source, id), keyword, mapped);
    }

    private bool KeepsNames(ReadOnlySpan<byte> raw)
    {
        for (int at = 1; StepReferences.Next(raw, ref at, out int id, out _); )
            if (plan.Id(0, id) != id)
                return false;
        return true;
    }

    private string Adjusted(int index, string mapped)
    {
        var model = snapshot.Model;
        if (plan.NewGlobalId(source, index) is { } id)
            return $"'{id}'{mapped[mapped.IndexOf(',', StringComparison.Ordinal)..]}";
        if (source == 0 && index == snapshot.Structure.Project && plan.Contexts.Count > 0)
        {
            var text = new InstanceText(index, model.Entity(index), "", InstanceText.Split(mapped));
            string contexts = text["RepresentationContexts"];
            text["RepresentationContexts"] =
                $"({(contexts.Length > 2 ? contexts[1..^1] + "," : "")}{string.Join(",", plan.Contexts.Select(c => "#" + c))})";
            return text.Inside;
        }

        if (source == 0 || !model.Is(index, "IfcRelAggregates"))
            return mapped;
        // What an earlier source has put under this whole already is not put there twice.
        var related = model.Refs(index, "RelatedObjects");
        if (!related.Any(o => plan.IsShared(source, o)) || !plan.IsShared(source, model.Ref(index, "RelatingObject")))
            return mapped;
        var kept = new InstanceText(index, model.Entity(index), "", InstanceText.Split(mapped));
        kept["RelatedObjects"] =
            "("
            + string.Join(
                ",",
                related.Where(o => !plan.IsShared(source, o)).Select(o => "#" + plan.Id(source, model.File.Id(o)))
            )
            + ")";
        return kept.Inside;
    }
}
