namespace SteadyLintel.Cli;

/// <summary>What the process ends with.</summary>
internal static class ExitCodes
{
    public const int Done = 0;
    public const int WrongArguments = 2;
    public const int Unreadable = 3;
    public const int NotBalanced = 4;
}
