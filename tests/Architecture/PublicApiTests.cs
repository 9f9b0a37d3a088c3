using System.Reflection;
using System.Text;

namespace SteadyLintel.Tests;

/// <summary>What Core offers to those who use it, as text beside the tests: a change of it is seen when it is reviewed.</summary>
public class PublicApiTests
{
    private const BindingFlags Declared =
        BindingFlags.Public | BindingFlags.Instance | BindingFlags.Static | BindingFlags.DeclaredOnly;

    // With LINTEL_API=write the texts are written anew.
    [Theory]
    [InlineData(typeof(Step.StepFile))]
    [InlineData(typeof(Geometry.Vec3))]
    [InlineData(typeof(Ifc.IfcModel))]
    [InlineData(typeof(Cad.Drawing))]
    [InlineData(typeof(Exchange.HandoverRunner))]
    [InlineData(typeof(Topics.TopicArchive))]
    public void Core_offers_what_is_written_down(Type one)
    {
        string path = Path.Combine(Folder(), $"{one.Namespace!.Split('.')[^1]}.txt");
        string now = Of(one.Assembly);
        if (Environment.GetEnvironmentVariable("LINTEL_API") == "write")
            File.WriteAllText(path, now);
        string known = File.Exists(path) ? File.ReadAllText(path) : "";
        string[] before = known.Split('\n'),
            after = now.Split('\n');
        Assert.True(
            known == now,
            "What Core offers has changed; if it is meant, run LINTEL_API=write ./test Architecture and review the texts:\n"
                + string.Join('\n', before.Except(after).Take(20).Select(l => "- " + l))
                + "\n"
                + string.Join('\n', after.Except(before).Take(20).Select(l => "+ " + l))
        );
    }

    private static string Of(Assembly assembly)
    {
        var text = new StringBuilder();
        foreach (var type in assembly.GetExportedTypes().OrderBy(t => t.FullName, StringComparer.Ordinal))
        {
            text.Append(Kind(type)).Append(' ').Append(Name(type)).Append('\n');
            var members = type.IsEnum
                ? Enum.GetNames(type).Select(n => $"{n} = {Convert.ToInt64(Enum.Parse(type, n))}")
                : type.GetMembers(Declared).Select(Line).OfType<string>();
            foreach (string member in members.Distinct().Order(StringComparer.Ordinal))
                text.Append("    ").Append(member).Append('\n');
        }

        return text.ToString();
    }

    // What the compiler adds to records is not said: it follows from their members.
    private static string? Line(MemberInfo member) =>
        member switch
        {
            MethodInfo { IsSpecialName: true } => null,
            { Name: "ToString" or "Equals" or "GetHashCode" or "<Clone>$" or "Deconstruct" } => null,
            ConstructorInfo c => $"new({Parameters(c)})",
            MethodInfo m => $"{Static(m)}{m.Name}({Parameters(m)}): {Name(m.ReturnType)}",
            PropertyInfo p =>
                $"{Static(p.GetMethod)}{p.Name}: {Name(p.PropertyType)}{(p.SetMethod?.IsPublic == true ? " set" : "")}",
            FieldInfo f => $"{(f.IsStatic ? "static " : "")}{f.Name}: {Name(f.FieldType)}",
            _ => null,
        };

    private static string Static(MethodBase? method) => method?.IsStatic == true ? "static " : "";

    private static string Parameters(MethodBase method) =>
        string.Join(
            ", ",
            method.GetParameters().Select(p => $"{Name(p.ParameterType)} {p.Name}{(p.IsOptional ? "?" : "")}")
        );

    private static string Kind(Type type) =>
        type.IsEnum ? "enum"
        : type.IsInterface ? "interface"
        : type.IsValueType ? "struct"
        : "class";

    private static string Name(Type type)
    {
        if (type.IsByRef)
            return "ref " + Name(type.GetElementType()!);
        if (type.IsArray)
            return Name(type.GetElementType()!) + "[]";
        string name = type.IsGenericParameter ? type.Name : (type.FullName ?? type.Name).Split('[')[0];
        name = name.Replace("SteadyLintel.", "")
            .Replace("System.Collections.Generic.", "")
            .Replace("System.", "")
            .Replace('+', '.');
        return type.IsGenericType
            ? $"{name.Split('`')[0]}<{string.Join(", ", type.GetGenericArguments().Select(Name))}>"
            : name;
    }

    private static string Folder()
    {
        string folder = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(folder, "SteadyLintel.slnx")))
            folder = Path.GetDirectoryName(folder)!;
        return Directory.CreateDirectory(Path.Combine(folder, "tests", "Architecture", "Api")).FullName;
    }
}
