namespace GateSplit.Core.Checks;

/// <summary>Marks a check that looks at all passes together: what one of them records says nothing by itself.</summary>
internal interface IOfTheWholeSplit;
