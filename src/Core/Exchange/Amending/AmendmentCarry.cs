namespace SteadyLintel.Exchange;

/// <summary>How an amendment meets a revision of its source.</summary>
public enum AmendmentState
{
    /// <summary>The file says what it said when the amendment was made, so the amendment holds.</summary>
    Holds,

    /// <summary>The sender has done the same since: nothing is left to amend.</summary>
    Settled,

    /// <summary>The sender has done something else since: both are shown until somebody decides, and what the file says holds until
    /// then.</summary>
    Contradicts,

    /// <summary>The file no longer has the element: the amendment is kept and not applied.</summary>
    Gone,

    /// <summary>It cannot be applied to the file; it is kept.</summary>
    Refused,
}

/// <summary>An amendment held against a revision.</summary>
/// <param name="Amendment">The amendment, with the GlobalId that its element has in the revision.</param>
/// <param name="State">How it meets it.</param>
/// <param name="File">What the revision says.</param>
/// <param name="Sentence">Why it is refused; empty for other states.</param>
public sealed record CarriedAmendment(Amendment Amendment, AmendmentState State, FileStatement File, string Sentence);

/// <summary>Carries amendments on to another revision of their source.</summary>
public static class AmendmentCarry
{
    /// <summary>Holds amendments against a revision.</summary>
    /// <param name="revision">The revision.</param>
    /// <param name="amendments">The amendments, each with what the file said when it was made.</param>
    /// <param name="renamed">GlobalIds of elements that have another in this revision, as a comparison matched them; empty for
    /// none.</param>
    public static IReadOnlyList<CarriedAmendment> To(
        ModelSnapshot revision,
        IReadOnlyList<Amendment> amendments,
        IReadOnlyDictionary<string, string> renamed
    )
    {
        var reader = new AmendmentReader(revision);
        return [.. amendments.Select(a => One(reader, a, renamed))];
    }

    private static CarriedAmendment One(
        AmendmentReader reader,
        Amendment amendment,
        IReadOnlyDictionary<string, string> renamed
    )
    {
        bool file = amendment is { Kind: AmendmentKind.Model, Element: AmendmentReader.File };
        int index = file ? -1 : reader.IndexOf(amendment.Element);
        if (index < 0 && !file && renamed.TryGetValue(amendment.Element, out string? now))
            (amendment, index) = (amendment with { Element = now }, reader.IndexOf(now));
        if (index < 0 && !file)
            return new CarriedAmendment(amendment, AmendmentState.Gone, FileStatement.None, "");
        var said = reader.Read(amendment, index);
        if (amendment.Kind == AmendmentKind.LeaveOut)
            return new CarriedAmendment(amendment, AmendmentState.Holds, said, "");
        if (Target(reader, amendment, index) is { } wanted && wanted.Agrees(said))
            return new CarriedAmendment(amendment, AmendmentState.Settled, said, "");
        return amendment.Was is null || amendment.Was.Agrees(said)
            ? new CarriedAmendment(amendment, AmendmentState.Holds, said, "")
            : new CarriedAmendment(amendment, AmendmentState.Contradicts, said, "");
    }

    // What the amendment wants the file to say. Moves and lengths add to what was there when they were made, not to what is there now.
    private static FileStatement? Target(AmendmentReader reader, Amendment amendment, int index)
    {
        if (amendment.Kind is not (AmendmentKind.Move or AmendmentKind.Length))
            return reader.Wanted(amendment, index);
        if (amendment.Was is null)
            return null;
        return AmendmentReader.WantedFrom(amendment, amendment.Was);
    }
}
