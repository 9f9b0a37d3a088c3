namespace SteadyLintel.Step;

/// <summary>Finds the references in raw parameter bytes, skipping strings, binaries and comments.</summary>
public static class StepReferences
{
    /// <summary>Adds every <c>#n</c> in the bytes to <paramref name="ids"/>, in file order, repeats included.</summary>
    public static void Collect(ReadOnlySpan<byte> bytes, List<int> ids)
    {
        int at = 0;
        while (Next(bytes, ref at, out int id, out _)) ids.Add(id);
    }

    /// <summary>Goes to the next reference.</summary>
    /// <param name="bytes">The bytes of parameters.</param>
    /// <param name="at">Where to look from; afterwards the index behind the reference.</param>
    /// <param name="id">The instance name found.</param>
    /// <param name="start">The index of its <c>#</c>.</param>
    /// <returns>False when there is none.</returns>
    public static bool Next(ReadOnlySpan<byte> bytes, ref int at, out int id, out int start)
    {
        while (at < bytes.Length)
        {
            int stop = bytes[at..].IndexOfAny((byte)'#', (byte)'\'', (byte)'/');
            if (stop < 0) break;
            at += stop;
            if (bytes[at] == '\'')
            {
                at = StepScan.SkipString(bytes, at);
                continue;
            }

            if (bytes[at] == '/')
            {
                at = at + 1 < bytes.Length && bytes[at + 1] == '*' ? StepScan.SkipComment(bytes, at) : at + 1;
                continue;
            }

            start = at++;
            int from = at;
            while (at < bytes.Length && (uint)(bytes[at] - '0') <= 9) at++;
            if (StepValue.TryId(bytes[from..at], out id)) return true;
        }

        id = 0;
        start = -1;
        at = bytes.Length;
        return false;
    }
}
