namespace SteadyLintel.Step;

/// <summary>Finds the references in raw parameter bytes, skipping strings, binaries and comments.</summary>
public static class StepReferences
{
    private const long TooLarge = 1L << 40;

    /// <summary>Adds every <c>#n</c> in the bytes to <paramref name="ids"/>, in file order, repeats included.</summary>
    public static void Collect(ReadOnlySpan<byte> bytes, List<int> ids)
    {
        int at = 0;
        while (Next(bytes, ref at, out int id, out _))
            ids.Add(id);
    }

    /// <summary>Goes to the next reference.</summary>
    /// <param name="bytes">The bytes of parameters.</param>
    /// <param name="at">Where to look from; afterwards the index behind the reference.</param>
    /// <param name="id">The instance name found.</param>
    /// <param name="start">The index of its <c>#</c>.</param>
    /// <returns>False when there is none.</returns>
    public static bool Next(ReadOnlySpan<byte> bytes, ref int at, out int id, out int start)
    {
        while ((uint)at < (uint)bytes.Length)
        {
            byte c = bytes[at];
            // Letters and digits are most of it.
            if (c > '/')
            {
                at++;
                continue;
            }

            if (c == '#')
            {
                start = at++;
                long value = 0;
                for (uint digit; at < bytes.Length && (digit = (uint)(bytes[at] - '0')) <= 9; at++)
                    value = Math.Min((value * 10) + digit, TooLarge);
                if (value is > 0 and <= int.MaxValue)
                {
                    id = (int)value;
                    return true;
                }
            }
            else if (c == '\'')
                at = StepScan.SkipString(bytes, at);
            else if (c == '/' && at + 1 < bytes.Length && bytes[at + 1] == '*')
                at = StepScan.SkipComment(bytes, at);
            else
                at++;
        }

        id = 0;
        start = -1;
        at = bytes.Length;
        return false;
    }
}
