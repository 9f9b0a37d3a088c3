using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web;

/// <summary>The receipt sheet of a transmittal: what was given to whom, from what, and its balance. Read on screen and printed from one
/// form.</summary>
/// <param name="Title">What was ordered, and which transmittal.</param>
/// <param name="Facts">What is said at its head, a name and a value each.</param>
/// <param name="Tables">Its tables.</param>
/// <param name="Verdict">The balance in a sentence.</param>
/// <param name="Balanced">Whether it is balanced.</param>
public sealed record TransmittalSheet(
    string Title,
    IReadOnlyList<(string Name, string Value)> Facts,
    IReadOnlyList<SheetTable> Tables,
    string Verdict,
    bool Balanced
)
{
    /// <summary>Makes the sheet of a run.</summary>
    /// <param name="job">The job.</param>
    /// <param name="order">The order.</param>
    /// <param name="run">The transmittal.</param>
    /// <param name="result">What came of it.</param>
    /// <param name="people">Names of who ran and released it.</param>
    public static TransmittalSheet Of(
        Job job,
        OrderRow order,
        Transmittal run,
        HandoverResult result,
        IReadOnlyDictionary<Guid, string> people
    )
    {
        var document = OrderDocument.Read(run.Spec);
        var facts = new List<(string, string)>
        {
            ("Job", $"{job.Code} {job.Name}"),
            ("For", document.To.Length > 0 ? document.To : "whoever needs it"),
            (
                "Run",
                $"{DisplayText.Day(run.RanAt)} {ReaderZone.Local(run.RanAt):HH:mm}, {people.GetValueOrDefault(run.RanBy, "somebody")}"
            ),
            (
                "Form",
                $"{OrderWords.FormName(OrderWords.FormOf(document.Into))}, {OrderWords.UnitName(document.Unit ?? "")}, {OrderWords.FrameName(document.Frame)}"
            ),
        };
        if (OrderBasis.Read(run.Basis) is { } basis)
            facts.Add(
                (
                    "From",
                    string.Join(
                        ", ",
                        basis
                            .Revisions.Select(r => $"{r.Title} r{r.Number}")
                            .Concat(basis.Items.Select(i => $"{i.Kind.Word()} {i.Name} v{i.Version}"))
                    )
                )
            );
        if (run.SignedBy is { } signer)
            facts.Add(
                ("Released by", $"{people.GetValueOrDefault(signer, "somebody")}, though not balanced: {run.SignedWhy}")
            );
        return new TransmittalSheet(
            $"Order {order.Number} {order.Title}, transmittal {run.Number}",
            facts,
            [.. TablesOf(run, result)],
            result.Balanced
                ? $"Balanced: 0 of {DisplayText.Number(Things(result))} items are unaccounted for."
                : $"Not balanced: {DisplayText.Number(result.Unaccounted)} of {DisplayText.Number(Things(result))} items are unaccounted for.",
            result.Balanced
        );
    }

    private static long Things(HandoverResult result) =>
        result.Reconciliation.Ledger.Sum(l => (long)l.Things)
        + result.Drawings.Sum(d => d.Ledger.Sum(l => (long)l.Things));

    private static IEnumerable<SheetTable> TablesOf(Transmittal run, HandoverResult result)
    {
        yield return new SheetTable(
            "Files",
            ["File", "Elements", "Size", "SHA-256", ""],
            [
                .. result.Files.Select(f =>
                    (string[])
                        [
                            f.Name,
                            DisplayText.Number(f.Elements),
                            DisplayText.Bytes(f.Bytes),
                            f.Sha256,
                            run.Files.FirstOrDefault(x => x.Name == f.Name)?.SameAs is { } same
                                ? $"as in transmittal {same}"
                                : "",
                        ]
                ),
            ]
        );
        var rows = result.Reconciliation.Rows;
        if (rows.Count > 0)
            yield return new SheetTable(
                "By storey and class",
                ["Storey", "Class", "In", "Left out", "Written", "Confirmed in the file", "Unaccounted"],
                [
                    .. rows.Select(r =>
                        (string[])
                            [
                                r.Storey.Length > 0 ? r.Storey : "in no storey",
                                DisplayText.Class(r.Class),
                                DisplayText.Number(r.In),
                                DisplayText.Number(r.LeftOut),
                                DisplayText.Number(r.Written),
                                DisplayText.Number(r.Found),
                                DisplayText.Number(r.Unaccounted),
                            ]
                    ),
                ]
            );
        if (result.Less.Count > 0)
            yield return new SheetTable(
                "Less than in the transmittal before",
                ["What"],
                [.. result.Less.Select(l => (string[])[l])]
            );
        var reasons = rows.SelectMany(r => r.Reasons)
            .GroupBy(r => r.Key)
            .Select(g => (string[])[g.Key, DisplayText.Number(g.Sum(r => r.Value))])
            .ToList();
        if (reasons.Count > 0)
            yield return new SheetTable("Left out", ["By", "Elements"], reasons);
        if (result.Reconciliation.Ledger.Count > 0)
            yield return new SheetTable(
                "By kind",
                ["What", "Things", "Same", "Changed", "Left out", "Not transferable", "Unaccounted"],
                [
                    .. result.Reconciliation.Ledger.Select(l =>
                        (string[])
                            [
                                DisplayText.Kind(l.Kind),
                                DisplayText.Number(l.Things),
                                DisplayText.Number(l.Same),
                                DisplayText.Number(l.Changed.Values.Sum()),
                                DisplayText.Number(l.LeftOut.Values.Sum()),
                                DisplayText.Number(l.NotCarried.Values.Sum()),
                                DisplayText.Number(l.Unaccounted),
                            ]
                    ),
                ]
            );
        if (result.Reconciliation.Checks.Count > 0)
            yield return new SheetTable(
                "Compared",
                ["What", "Agree", "Differ"],
                [
                    .. result.Reconciliation.Checks.Select(c =>
                        (string[])[c.Name, DisplayText.Number(c.Same), DisplayText.Number(c.Differ)]
                    ),
                ]
            );
        if (result.Drawings.Count > 0)
            yield return new SheetTable(
                "Drawings",
                ["Drawing", "File", "Unaccounted", "Verdict"],
                [
                    .. result.Drawings.Select(d =>
                        (string[])
                            [
                                d.Source,
                                d.File,
                                DisplayText.Number(d.Unaccounted),
                                d.Balanced ? "balanced" : "not balanced",
                            ]
                    ),
                ]
            );
        if (result.Reconciliation.NotCarried.Count > 0)
            yield return new SheetTable(
                "Not transferable",
                ["Why", "Things"],
                [.. result.Reconciliation.NotCarried.Select(n => (string[])[n.What, DisplayText.Number(n.Count)])]
            );
    }
}

/// <summary>A table of a sheet.</summary>
/// <param name="Title">Its title.</param>
/// <param name="Headings">Its headings.</param>
/// <param name="Rows">Its rows.</param>
public sealed record SheetTable(string Title, IReadOnlyList<string> Headings, IReadOnlyList<string[]> Rows)
{
    /// <summary>Whether a column holds figures.</summary>
    public bool IsFigures(int column) =>
        column > 0
        && Rows.Count > 0
        && Rows.All(r => r[column].Length == 0 || r[column].All(c => char.IsDigit(c) || char.IsWhiteSpace(c)));
}
