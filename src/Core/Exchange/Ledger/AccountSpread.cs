using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>The accounts of facts that many instances make up together: a shape is as well accounted for as the worst of its
/// points.</summary>
internal sealed class AccountSpread(SourceAccounts accounts)
{
    private const byte Unknown = 0,
        Open = 255;
    private readonly IfcModel _model = accounts.Snapshot.Model;

    // The account of an instance and all it refers to, plus one; and the instance it is from.
    private readonly byte[] _deep = accounts.AnyChange ? new byte[accounts.Snapshot.Model.File.Count] : [];
    private readonly int[] _from = accounts.AnyChange ? new int[accounts.Snapshot.Model.File.Count] : [];

    /// <summary>The account of a product's or type's shape; null when it has none.</summary>
    public (LedgerAccount Account, string Rule)? Shape(int product)
    {
        var roots = _model.Is(product, "IfcProduct")
            ? Single(_model.Ref(product, "Representation"))
            : _model.Refs(product, "RepresentationMaps");
        if (roots.Length == 0)
            return null;
        // A rule can leave out a shape of what goes.
        return Array.TrueForAll(roots, r => accounts.Of(r) == LedgerAccount.LeftOut && accounts.RuleOf(r).Length > 0)
            ? (LedgerAccount.LeftOut, accounts.RuleOf(roots[0]))
            : Worst(roots);
    }

    /// <summary>The account of a product's place; null when it has none of its own.</summary>
    public (LedgerAccount Account, string Rule)? Place(int product) =>
        Single(_model.Ref(product, "ObjectPlacement")) is { Length: > 0 } roots ? Worst(roots) : null;

    /// <summary>The account of a styled item with its styles, without the item.</summary>
    public (LedgerAccount Account, string Rule) OfStyle(int styled)
    {
        var own = (accounts.Of(styled), accounts.RuleOf(styled));
        if (own.Item1 is LedgerAccount.LeftOut or LedgerAccount.Unaccounted || !accounts.AnyChange)
            return own;
        var styles = Worst(_model.Refs(styled, "Styles"));
        return styles.Account > own.Item1 ? styles : own;
    }

    private static int[] Single(int index) => index < 0 ? [] : [index];

    private (LedgerAccount Account, string Rule) Worst(int[] roots)
    {
        if (!accounts.AnyChange)
            return (LedgerAccount.Same, "");
        int worst = -1;
        byte deep = Unknown;
        foreach (int root in roots)
        {
            if (_deep[root] == Unknown)
                Visit(root);
            if (_deep[root] > deep)
                (deep, worst) = (_deep[root], _from[root]);
        }

        return worst < 0 || deep <= (byte)LedgerAccount.Same + 1
            ? (LedgerAccount.Same, "")
            : ((LedgerAccount)(deep - 1), accounts.RuleOf(worst));
    }

    // Depth first, without recursion: chains in a file may be as long as it is.
    private void Visit(int root)
    {
        var stack = new Stack<int>();
        stack.Push(root);
        while (stack.TryPeek(out int index))
        {
            bool entered = _deep[index] == Open;
            if (!entered)
            {
                if (_deep[index] != Unknown)
                {
                    stack.Pop();
                    continue;
                }

                _deep[index] = Open;
            }

            byte worst = (byte)(Math.Max((byte)accounts.Of(index), (byte)LedgerAccount.Same) + 1);
            int from = index;
            bool waits = false;
            var raw = _model.File.Raw(index);
            for (int at = 1; StepReferences.Next(raw, ref at, out int id, out _); )
            {
                if (_model.File.IndexOf(id) is not (>= 0 and var target) || IsOwnThing(target))
                    continue;
                if (_deep[target] == Unknown && !entered)
                {
                    stack.Push(target);
                    waits = true;
                }
                else if (_deep[target] != Open && _deep[target] > worst)
                    (worst, from) = (_deep[target], _from[target]);
            }

            if (waits)
                continue;
            stack.Pop();
            (_deep[index], _from[index]) = (worst, from);
        }
    }

    // Contexts and rooted objects have accounts of their own.
    private bool IsOwnThing(int index) => _model.Is(index, "IfcRepresentationContext") || _model.Is(index, "IfcRoot");
}
