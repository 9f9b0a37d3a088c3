using System.CommandLine;
using SteadyLintel.Cli;

var root = new RootCommand("lintel: reads, measures and hands over building models from the terminal.")
{
    InspectCommand.Create(),
    ValidateCommand.Create(),
    PropertiesCommand.Create(),
    FramesCommand.Create(),
    FitCommand.Create(),
    CompareCommand.Create(),
    MembersCommand.Create(),
    MeshCommand.Create(),
    HandoverCommand.Create(),
    ConvertCommand.Create(),
    ScaleCommand.Create(),
    PrepareCommand.Create(),
    TopicsCommand.Create(),
    DemoCommand.Create(),
    AdminCommand.Create(),
};
var parsed = root.Parse(args);
if (parsed.Errors.Count > 0)
{
    Console.Error.WriteLine(parsed.Errors[0].Message);
    return ExitCodes.WrongArguments;
}

return parsed.Invoke();
