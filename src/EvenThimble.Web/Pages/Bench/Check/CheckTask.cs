namespace EvenThimble.Web.Pages.Bench;

/// <summary>What to look at before sewing.</summary>
public sealed class CheckTask : BenchTask
{
    public override string Id => "check";

    public override string Name => "Check";

    public override string Icon => "bi-clipboard-check";

    public override char? Key => '8';

    public override string Says => "What to look at before sewing";

    public override bool HasScript => false;
}
