using System.Text;
using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>Compares an instance as it is expected with one that was read again, attribute by attribute.</summary>
/// <param name="source">The model it came from.</param>
/// <param name="again">The model that was read again.</param>
/// <param name="nameOf">The name in the written file of an instance name of the source.</param>
/// <param name="mayStay">Whether an instance of the source is missing in the file by rule, so that references to it may be missing
/// too.</param>
internal sealed class InstanceComparer(IfcModel source, IfcModel again, Func<int, int> nameOf, Func<int, bool> mayStay)
{
    // A number scaled and rounded to 15 digits is off by less than this, relative to itself.
    private const double Rounding = 1e-13;

    /// <summary>The name of the first attribute that is not as expected; null when all are.</summary>
    public string? Difference(ExpectedInstance expected, int found)
    {
        string keyword = again.File.TypeNames[again.File.TypeOf(found)];
        if (expected.Keyword is null)
            return null;
        if (keyword != expected.Keyword)
            return "class";
        if (keyword.Length == 0)
            return SameButNames(source.File.Raw(expected.Index), again.File.Raw(found)) ? null : "values";
        var record = again.Record(found);
        int position = 0;
        foreach (var value in new StepItems(record.Raw))
        {
            if (position >= expected.Values.Count)
                return "number of attributes";
            if (!Same(expected.Values[position], value))
                return Name(expected, position);
            position++;
        }

        return position < expected.Values.Count ? Name(expected, position) : null;
    }

    /// <summary>Whether two instances say the same but for the names of instances, which must be each other's.</summary>
    /// <param name="before">An instance of the source, from its <c>#</c> on.</param>
    /// <param name="after">The instance in the file.</param>
    public bool SameButNames(ReadOnlySpan<byte> before, ReadOnlySpan<byte> after)
    {
        int a = 0,
            b = 0,
            doneA = 0,
            doneB = 0;
        while (true)
        {
            bool moreA = StepReferences.Next(before, ref a, out int idA, out int startA),
                moreB = StepReferences.Next(after, ref b, out int idB, out int startB);
            if (moreA != moreB)
                return false;
            if (!moreA)
                return before[doneA..].SequenceEqual(after[doneB..]);
            if (nameOf(idA) != idB || !before[doneA..startA].SequenceEqual(after[doneB..startB]))
                return false;
            (doneA, doneB) = (a, b);
        }
    }

    private static string Name(ExpectedInstance expected, int position) =>
        expected.Entity is { } entity && position < entity.Attributes.Count
            ? entity.Attributes[position].Name
            : $"attribute {position + 1}";

    private bool Same(ExpectedValue expected, StepValue found)
    {
        if (expected.Anything)
            return true;
        var bytes = Encoding.Latin1.GetBytes(expected.Text);
        return Same(new StepValue(bytes), found, expected.Lengths, expected.TypedLengths, expected.Longer);
    }

    private bool Same(StepValue expected, StepValue found, double lengths, double typed, bool longer = false)
    {
        // Nobody looks into it, so nobody can have changed a part of it.
        if (expected.IsTooDeep || found.IsTooDeep)
            return expected.Raw.SequenceEqual(found.Raw);
        switch (expected.Kind)
        {
            case StepKind.Number:
                return found.Kind == StepKind.Number && SameNumber(expected, found, lengths);
            case StepKind.Reference:
                if (found.Kind == StepKind.Reference)
                    return nameOf(expected.Reference) == found.Reference;
                return found.IsNull && Stays(expected.Reference);
            case StepKind.Typed:
                if (found.Kind != StepKind.Typed || !KeywordsEqual(expected.TypeBytes, found.TypeBytes))
                    return false;
                return Same(
                    expected.Inner,
                    found.Inner,
                    typed != 1 && MeasureKinds.IsLength(expected.TypeName!) ? typed : 1,
                    typed
                );
            case StepKind.List:
                return found.Kind == StepKind.List
                    ? SameList(expected, found, lengths, typed, longer)
                    : found.IsNull && AllStay(expected);
            case StepKind.String:
                return found.Kind == StepKind.String
                    && (expected.Raw.SequenceEqual(found.Raw) || expected.Text == found.Text);
            default:
                return expected.Raw.SequenceEqual(found.Raw);
        }
    }

    private static bool SameNumber(StepValue expected, StepValue found, double lengths)
    {
        if (lengths == 1 && expected.Raw.SequenceEqual(found.Raw))
            return true;
        double a = expected.Real * lengths,
            b = found.Real;
        // A number that was not scaled is the same to the last digit.
        return lengths == 1 ? a.Equals(b) : Math.Abs(a - b) <= Rounding * Math.Abs(b) + double.Epsilon;
    }

    private bool SameList(StepValue expected, StepValue found, double lengths, double typed, bool longer)
    {
        var items = found.Items;
        bool more = items.MoveNext();
        foreach (var item in expected.Items)
        {
            if (more && Same(item, items.Current, lengths, typed))
                more = items.MoveNext();
            else if (item.Kind != StepKind.Reference || !Stays(item.Reference))
                return false;
        }

        return !more || longer;
    }

    private bool AllStay(StepValue list)
    {
        bool any = false;
        foreach (var item in list.Items)
        {
            if (item.Kind != StepKind.Reference || !Stays(item.Reference))
                return false;
            any = true;
        }

        return any;
    }

    private bool Stays(int id) => source.File.IndexOf(id) is >= 0 and var index && mayStay(index);

    private static bool KeywordsEqual(ReadOnlySpan<byte> a, ReadOnlySpan<byte> b) =>
        a.SequenceEqual(b)
        || Encoding.ASCII.GetString(a).Equals(Encoding.ASCII.GetString(b), StringComparison.OrdinalIgnoreCase);
}
