using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>Takes the instances of a source on their way into a file.</summary>
internal interface IInstanceTarget
{
    /// <summary>Takes an instance of the source as it is there.</summary>
    void Copy(int index);

    /// <summary>Takes an instance that was changed or made.</summary>
    /// <param name="id">Its name in the source, or one the source does not use.</param>
    /// <param name="keyword">Its keyword.</param>
    /// <param name="inside">The text between the parentheses.</param>
    /// <param name="index">The instance of the source it was, -1 for a new one.</param>
    void Write(int id, string keyword, string inside, int index);
}

/// <summary>Writes the instances of one source under their own names.</summary>
internal sealed class SourceInstances(IfcModel model, StepWriter writer, MadeInstances made) : IInstanceTarget
{
    /// <inheritdoc/>
    public void Copy(int index) => writer.Copy(model.File.Raw(index));

    /// <inheritdoc/>
    public void Write(int id, string keyword, string inside, int index)
    {
        made.Add(id, keyword, inside, index);
        writer.Instance(id, keyword, inside);
    }
}
