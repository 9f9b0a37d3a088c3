using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>The accounts of one source over all files of a run: one for every instance, and one for every pair of ends of a relationship or
/// layer.</summary>
internal sealed class SourceAccounts
{
    private readonly LedgerAccount[] _instances;
    private readonly int[] _instanceRules;
    private readonly Dictionary<int, int> _firstPair = [];
    private readonly LedgerAccount[] _pairs;
    private readonly int[] _pairRules;
    private readonly RuleNames _rules;

    public SourceAccounts(ModelSnapshot snapshot, RuleNames rules)
    {
        (Snapshot, _rules) = (snapshot, rules);
        (_instances, _instanceRules) = (
            new LedgerAccount[snapshot.Model.File.Count],
            new int[snapshot.Model.File.Count]
        );
        int pairs = 0;
        foreach (
            int index in snapshot.RelationIndex.Ends.Concat(snapshot.Model.OfType("IfcPresentationLayerAssignment"))
        )
        {
            _firstPair[index] = pairs;
            pairs += Math.Max(1, Members(index).Length);
        }

        (_pairs, _pairRules) = (new LedgerAccount[pairs], new int[pairs]);
    }

    /// <summary>The source.</summary>
    public ModelSnapshot Snapshot { get; }

    /// <summary>Products whose place was found to be another.</summary>
    public HashSet<int> Displaced { get; } = [];

    /// <summary>Products whose shape was found to be another.</summary>
    public HashSet<int> Reshaped { get; } = [];

    /// <summary>Products that a drawing shows, with the rule that says how.</summary>
    public Dictionary<int, string> Drawn { get; } = [];

    /// <summary>Whether some instance is in an account other than the same and left out.</summary>
    public bool AnyChange { get; private set; }

    /// <summary>The account of an instance.</summary>
    public LedgerAccount Of(int index) => _instances[index];

    /// <summary>Why an instance is in its account.</summary>
    public string RuleOf(int index) => _rules.Name(_instanceRules[index]);

    /// <summary>The account of a pair and why it is there.</summary>
    /// <param name="index">The relationship or layer assignment.</param>
    /// <param name="member">The place of the member in its list.</param>
    public (LedgerAccount Account, string Rule) Pair(int index, int member) =>
        (_pairs[_firstPair[index] + member], _rules.Name(_pairRules[_firstPair[index] + member]));

    /// <summary>Puts an instance into an account; a worse one that it is in already stays.</summary>
    public void Put(int index, LedgerAccount account, string rule = "")
    {
        if (account > LedgerAccount.Same)
            AnyChange = true;
        if (account <= _instances[index] && !(account == LedgerAccount.LeftOut && _instances[index] == account))
            return;
        _instances[index] = account;
        _instanceRules[index] = rule.Length == 0 ? 0 : _rules.Number(rule);
    }

    /// <summary>Puts an instance into an account, whatever it is in.</summary>
    public void Reset(int index, LedgerAccount account, string rule)
    {
        AnyChange = true;
        (_instances[index], _instanceRules[index]) = (account, _rules.Number(rule));
    }

    /// <summary>Puts a pair into an account; a worse one that it is in already stays.</summary>
    public void PutPair(int index, int member, LedgerAccount account, string rule = "")
    {
        int pair = _firstPair[index] + member;
        if (account < _pairs[pair] || (account == _pairs[pair] && account != LedgerAccount.LeftOut))
            return;
        _pairs[pair] = account;
        _pairRules[pair] = rule.Length == 0 ? 0 : _rules.Number(rule);
    }

    /// <summary>The instance names in the list of a relationship or layer assignment, as they are there.</summary>
    public int[] Members(int index)
    {
        var form = Snapshot.RelationIndex.Kinds[Snapshot.Model.File.TypeOf(index)].Form;
        if (form is null || form.Many < 0)
            return [];
        var ids = new List<int>();
        StepReferences.Collect(Snapshot.Model.Record(index)[form.Many].Raw, ids);
        return [.. ids];
    }

    /// <summary>Whether pairs are kept for an instance.</summary>
    public bool HasPairs(int index) => _firstPair.ContainsKey(index);

    /// <summary>How an instance is named in examples and differences.</summary>
    public string Label(int index)
    {
        var model = Snapshot.Model;
        string id = model.Is(index, "IfcRoot") ? " " + model.GlobalId(index) : "",
            name = model.Entity(index)?.Position("Name") >= 0 ? model.Name(index) : "";
        return $"#{model.File.Id(index)} {model.ClassName(index)}{id}{(name.Length > 0 ? $" '{name}'" : "")}";
    }
}
