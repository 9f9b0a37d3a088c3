using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>Leaves the fillets of profiles out, as a coarse model goes without them.</summary>
/// <remarks>The attributes are those that <see cref="ProfileFillets"/> names; each is optional (ISO 16739-1, parameterized
/// profiles).</remarks>
internal sealed class FilletRewrite : IRewrite
{
    /// <summary>The ledger's name of the rule.</summary>
    public const string Rule = "fillets left out of a coarse model";

    private readonly Dictionary<int, List<string>> _profiles = [];

    /// <summary>Finds the profiles with fillets.</summary>
    public FilletRewrite(IfcModel model)
    {
        foreach (int profile in model.OfType("IfcParameterizedProfileDef"))
        foreach (var attribute in model.Entity(profile)!.Attributes)
            if (attribute.Optional && ProfileFillets.Are(attribute.Name) && !model.Get(profile, attribute.Name).IsNull)
                (_profiles.TryGetValue(profile, out var list) ? list : _profiles[profile] = []).Add(attribute.Name);
    }

    /// <inheritdoc/>
    public bool Touches(int index) => _profiles.ContainsKey(index);

    /// <inheritdoc/>
    public void Apply(InstanceText text, NewInstances fresh)
    {
        foreach (string attribute in _profiles[text.Index])
            text[attribute] = "$";
    }

    /// <inheritdoc/>
    public void Expect(ExpectedInstance expected)
    {
        foreach (string attribute in _profiles[expected.Index])
            expected.Expect(attribute, "$", Rule);
    }
}
