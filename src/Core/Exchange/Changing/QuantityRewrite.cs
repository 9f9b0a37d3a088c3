using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>Adds quantities that were computed, in a set of their own that says so.</summary>
/// <remarks>Each has its unit with it: what the project measures areas and weights in need not be declared. Made after a change of schema,
/// in the form of the schema that is written.</remarks>
/// <param name="snapshot">The model.</param>
/// <param name="computed">What was computed.</param>
/// <param name="schema">The schema that is written.</param>
internal sealed class QuantityRewrite(ModelSnapshot snapshot, ComputedQuantities computed, string schema) : IRewrite
{
    private static readonly Dictionary<QuantityKind, (string Keyword, string Unit)> Forms = new()
    {
        [QuantityKind.Length] = ("IFCQUANTITYLENGTH", "*,.LENGTHUNIT.,$,.METRE."),
        [QuantityKind.Area] = ("IFCQUANTITYAREA", "*,.AREAUNIT.,$,.SQUARE_METRE."),
        [QuantityKind.Volume] = ("IFCQUANTITYVOLUME", "*,.VOLUMEUNIT.,$,.CUBIC_METRE."),
        [QuantityKind.Weight] = ("IFCQUANTITYWEIGHT", "*,.MASSUNIT.,.KILO.,.GRAM."),
    };

    /// <inheritdoc/>
    public bool Touches(int index) => computed.Of(index).Count > 0;

    /// <inheritdoc/>
    public void Apply(InstanceText text, NewInstances fresh)
    {
        string id = snapshot.Model.GlobalId(text.Index),
            owner = text["OwnerHistory"];
        var quantities = computed
            .Of(text.Index)
            .Select(q => "#" + fresh.Once(Forms[q.Kind].Keyword, Inside(q, fresh)))
            .ToList();
        int set = fresh.Add(
            "IFCELEMENTQUANTITY",
            $"'{GlobalIds.Derived(id, ComputedQuantities.Set)}',{owner},'{ComputedQuantities.Set}',$,"
                + $"'computed from the shape',({string.Join(",", quantities)})"
        );
        fresh.Add(
            "IFCRELDEFINESBYPROPERTIES",
            $"'{GlobalIds.Derived(id, ComputedQuantities.Set + "'")}',{owner},$,$,(#{snapshot.Model.File.Id(text.Index)}),#{set}"
        );
    }

    /// <inheritdoc/>
    public void Expect(ExpectedInstance expected) { }

    // IFC4 and later have a formula behind the value.
    private string Inside(ComputedQuantity quantity, NewInstances fresh) =>
        $"'{quantity.Name}',{StepWriter.String(quantity.How)},#{fresh.Once("IFCSIUNIT", Forms[quantity.Kind].Unit)},"
        + StepNumber.Format(quantity.Value)
        + (schema == "IFC2X3" ? "" : ",$");
}
