namespace SteadyLintel.Exchange;

/// <summary>The sources of a run with what is said beside their files, and the balance of that.</summary>
/// <param name="Sources">The sources as they are written.</param>
/// <param name="Balances">The balance of each source that was amended, with what to call it.</param>
internal sealed record AmendedSources(
    IReadOnlyList<HandoverSource> Sources,
    IReadOnlyList<(string Label, AmendmentBalance Balance)> Balances
)
{
    /// <summary>Amends the sources of a run.</summary>
    /// <param name="run">The run.</param>
    /// <param name="sources">Its sources as they came.</param>
    /// <param name="cancel">Stops between instances.</param>
    public static AmendedSources Of(HandoverRun run, IReadOnlyList<HandoverSource> sources, CancellationToken cancel)
    {
        if (!run.Order.Amendments || run.Amendments.Count == 0)
            return new AmendedSources(sources, []);
        var amended = sources.ToArray();
        var balances = new List<(string, AmendmentBalance)>();
        for (int n = 0; n < amended.Length; n++)
        {
            if (
                !run.Amendments.TryGetValue(n, out var all)
                || AmendedModel.ForExchange(all) is not { Count: > 0 } amendments
            )
                continue;
            var model = AmendedModel.Of(amended[n].Snapshot, amendments, TimeOf(run), cancel);
            var left = model.LeftOut;
            if (model.IsChanged)
                balances.Add((amended[n].Label, AmendmentLedger.Of(model, cancel)));
            amended[n] = amended[n] with
            {
                Snapshot = model.Snapshot,
                Amended = model.IsChanged ? model.Changed() : null,
                LeftOut = left,
            };
        }

        return new AmendedSources(amended, balances);
    }

    /// <summary>A balance of what was written, with what amendments took out before and whatever of them went wrong.</summary>
    public Reconciliation AddTo(Reconciliation balance)
    {
        foreach (var (label, of) in Balances)
            balance = balance with
            {
                Ledger = Merged(balance.Ledger, of.Lines),
                Checks = [.. balance.Checks, .. of.Checks.Select(c => c with { Name = $"{label}, {c.Name}" })],
                Differences = [.. balance.Differences, .. of.Differences.Select(d => $"{label}: {d}")],
            };
        return balance;
    }

    private static IReadOnlyList<LedgerLine> Merged(
        IReadOnlyList<LedgerLine> written,
        IReadOnlyList<LedgerLine> amended
    )
    {
        var lines = written.ToList();
        foreach (var line in amended.Where(l => l.LeftOut.Count > 0 || l.Unaccounted > 0))
        {
            int at = lines.FindIndex(l => l.Kind == line.Kind);
            var before =
                at >= 0
                    ? lines[at]
                    : line with
                    {
                        Things = 0,
                        Same = 0,
                        Changed = new Dictionary<string, int>(),
                        LeftOut = new Dictionary<string, int>(),
                        Unaccounted = 0,
                        Examples = [],
                    };
            var left = before.LeftOut.ToDictionary();
            foreach (var (rule, count) in line.LeftOut)
                left[rule] = left.GetValueOrDefault(rule) + count;
            var all = before with
            {
                Things = before.Things + line.LeftOut.Values.Sum(),
                LeftOut = left,
                Unaccounted = before.Unaccounted + line.Unaccounted,
                Examples =
                [
                    .. before.Examples,
                    .. line.Examples.Where(e => e.Account is LedgerAccount.LeftOut or LedgerAccount.Unaccounted),
                ],
            };
            if (at >= 0)
                lines[at] = all;
            else
                lines.Add(all);
        }

        return lines;
    }

    // The time of the run's files: the same run again gives the same bytes.
    private static DateTime TimeOf(HandoverRun run) =>
        DateTime.TryParse(
            run.TimeStamp,
            System.Globalization.CultureInfo.InvariantCulture,
            System.Globalization.DateTimeStyles.AssumeUniversal | System.Globalization.DateTimeStyles.AdjustToUniversal,
            out var time
        )
            ? time
            : DateTime.UnixEpoch;
}
