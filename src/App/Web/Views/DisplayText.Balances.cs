using SteadyLintel.Exchange;

namespace SteadyLintel.Web;

// Accounts of a balance.
public static partial class DisplayText
{
    /// <summary>An account of the ledger in words.</summary>
    public static string Account(LedgerAccount account) =>
        account switch
        {
            LedgerAccount.Same => "Same",
            LedgerAccount.Changed => "Changed",
            LedgerAccount.LeftOut => "Left out",
            LedgerAccount.NotCarried => "Not transferable",
            _ => "Unaccounted",
        };

    /// <summary>How many things of a line are in an account by one rule.</summary>
    public static int CountOf(LedgerLine line, LedgerAccount account, string rule) =>
        (
            account switch
            {
                LedgerAccount.Changed => line.Changed,
                LedgerAccount.LeftOut => line.LeftOut,
                _ => line.NotCarried,
            }
        ).GetValueOrDefault(rule);
}
