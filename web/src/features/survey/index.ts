export { SurveyPage } from "./SurveyPage";
